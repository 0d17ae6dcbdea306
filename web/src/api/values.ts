/** Made by `make types` from the core: limits, defaults and names. Not to be changed by hand. */
export const SHORTEST_SHOWN_US = 40000 as const;
export const MOST_CLOSED_US = 3000000 as const;
export const SAFE = 0.035 as const;
export const PLACE_RANGE = {
  "size": [
    0.01,
    0.5
  ],
  "width": [
    0.01,
    1.5
  ],
  "height": [
    0.002,
    1.5
  ]
} as const;
export const MOST_OUTLINES = 3 as const;
export const LONGEST_TITLE = 100 as const;
export const LONGEST_TEXT = 2200 as const;
export const MOST_TAGS = 30 as const;
export const LONGEST_TAG = 60 as const;
export const MOST_STRETCHES = 20 as const;
export const NAMED_SHAPES = [
  {
    "name": "Tall 9:16",
    "width": 1080,
    "height": 1920
  },
  {
    "name": "Portrait 4:5",
    "width": 1080,
    "height": 1350
  },
  {
    "name": "Square 1:1",
    "width": 1080,
    "height": 1080
  },
  {
    "name": "Wide 16:9",
    "width": 1920,
    "height": 1080
  }
] as const;
export const CUTAWAY_SPEEDS = [
  0.25,
  4.0
] as const;
export const LAYER_NAMES = {
  "headline": "Headline",
  "picture": "Picture",
  "plate": "Plate",
  "arrow": "Arrow",
  "bubble": "Speech bubble",
  "bar": "Progress bar",
  "waveform": "Waveform",
  "clock": "Clock",
  "speaker": "Who speaks"
} as const;
export const TEXT_NAMES = {
  "srt": "SubRip captions",
  "vtt": "WebVTT captions",
  "ass": "ASS captions",
  "ttml": "TTML captions",
  "txt": "Text",
  "csv": "Table of words",
  "json": "Words and captions, JSON"
} as const;
export const USUAL_VIDEO = {
  "kind": "video",
  "form": "h264",
  "lines": 0,
  "rate": 0,
  "quality": "good",
  "captions": "burned",
  "loudness": null,
  "most_mb": 0
} as const;
export const USUAL_TEXT = {
  "kind": "text",
  "form": "srt",
  "as_picture": false,
  "timed": false,
  "styled": false,
  "mark": false,
  "crlf": false
} as const;
export const USUAL_STILL = {
  "kind": "still",
  "form": "jpeg",
  "at_us": 0,
  "captions": true,
  "layers": true
} as const;
