"""A clip again and again, its packets copied."""

from __future__ import annotations

from pathlib import Path

import av

from mortiser.media.probe import probe


def looped(source: Path, out: Path, until_us: int, *, picture: bool = True) -> Path:
    """Write a clip's packets over and over until a moment (µs), the sound alone where no picture is wanted."""
    once_us = probe(source).duration_us
    with av.open(str(source)) as reading, av.open(str(out), "w") as writing:
        streams = [*reading.streams.video[:picture], reading.streams.audio[0]]
        copies = {some.index: writing.add_stream_from_template(some) for some in streams}
        last: dict[int, int] = {}
        for turn in range(-(-until_us // once_us)):
            reading.seek(0)
            for packet in reading.demux(*streams):
                if packet.dts is None or packet.pts is None or packet.time_base is None:
                    continue
                index, shift = packet.stream.index, round(turn * once_us / 1e6 / packet.time_base)
                # The sound begins before the picture, so that its second time overlaps its first.
                late = index in last and packet.dts + shift <= last[index]
                if late or (packet.pts + shift) * packet.time_base * 1_000_000 >= until_us:
                    continue
                packet.pts, packet.dts = packet.pts + shift, packet.dts + shift
                last[index] = packet.dts
                packet.stream = copies[index]
                writing.mux(packet)
    return out
