

def test_the_page_is_told_what_belongs_together(client: TestClient) -> None:
    names = ["talk.mp4", "talk.srt", "mic.wav", "still.png"]
    answer = client.post("/api/projects/pairing", json={"names": names})
    assert answer.json() == {
        "recordings": [{"file": 0, "words": 1, "sounds": [2], "cover": None}],
        "lonely": [3],
    }
    assert client.post("/api/projects/pairing", json={"names": ["a"] * 1_001}).status_code == 422
