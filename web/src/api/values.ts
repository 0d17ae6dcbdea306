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
export const TRANSITION_NAMES = [
  {
    "kind": "dissolve",
    "name": "Dissolve",
    "seen": "one fades into the other"
  },
  {
    "kind": "colour",
    "name": "Colour",
    "seen": "by way of a colour"
  },
  {
    "kind": "slide",
    "name": "Slide",
    "seen": "the next comes over it"
  },
  {
    "kind": "push",
    "name": "Push",
    "seen": "the next pushes it away"
  },
  {
    "kind": "wipe",
    "name": "Wipe",
    "seen": "an edge uncovers the next"
  },
  {
    "kind": "iris",
    "name": "Iris",
    "seen": "the next opens from the middle"
  },
  {
    "kind": "zoom",
    "name": "Zoom",
    "seen": "closer, into the next"
  },
  {
    "kind": "whip",
    "name": "Whip",
    "seen": "a quick, blurred push"
  },
  {
    "kind": "blur",
    "name": "Blur",
    "seen": "out of focus, and back"
  },
  {
    "kind": "picture",
    "name": "Picture",
    "seen": "dark parts of a picture go first"
  }
] as const;
export const TRANSITION_LENGTHS = [
  100000,
  3000000
] as const;
export const TRANSITION_STEPS = 12 as const;
export const DIRECTED = [
  "slide",
  "push",
  "wipe",
  "whip"
] as const;
export const EDGED = [
  "wipe",
  "iris",
  "picture"
] as const;
export const USUAL_TRANSITION = {
  "kind": "dissolve",
  "length_us": 400000,
  "direction": "left",
  "soft": 0.1,
  "colour": [
    0,
    0,
    0,
    255
  ],
  "eased": true,
  "picture": null
} as const;
export const USUAL_CUTAWAY_PLACE = {
  "x": 0.72,
  "y": 0.2,
  "width": 0.42,
  "aspect": 1.0,
  "corner": 0.12,
  "border": 0.008,
  "border_colour": [
    255,
    255,
    255,
    255
  ]
} as const;
export const GRADES = {
  "Window light": {
    "exposure": 0.25,
    "contrast": 0.0,
    "shadows": 0.2,
    "lights": -0.1,
    "saturation": 0.0,
    "warmth": -0.08,
    "tint": 0.0,
    "grain": 0.0,
    "vignette": 0.0,
    "softness": 0.0
  },
  "Workbench lamp": {
    "exposure": 0.0,
    "contrast": 0.12,
    "shadows": -0.1,
    "lights": 0.0,
    "saturation": 0.05,
    "warmth": 0.3,
    "tint": 0.0,
    "grain": 0.0,
    "vignette": 0.35,
    "softness": 0.0
  },
  "Varnish": {
    "exposure": 0.0,
    "contrast": 0.25,
    "shadows": 0.0,
    "lights": 0.1,
    "saturation": 0.25,
    "warmth": 0.0,
    "tint": 0.0,
    "grain": 0.0,
    "vignette": 0.0,
    "softness": 0.0
  },
  "Old catalogue": {
    "exposure": 0.0,
    "contrast": -0.2,
    "shadows": 0.3,
    "lights": 0.0,
    "saturation": -0.35,
    "warmth": 0.22,
    "tint": 0.0,
    "grain": 0.35,
    "vignette": 0.0,
    "softness": 0.15
  },
  "Graphite": {
    "exposure": 0.0,
    "contrast": 0.3,
    "shadows": 0.0,
    "lights": 0.0,
    "saturation": -1.0,
    "warmth": 0.0,
    "tint": 0.0,
    "grain": 0.15,
    "vignette": 0.0,
    "softness": 0.0
  },
  "Frosty morning": {
    "exposure": 0.1,
    "contrast": 0.08,
    "shadows": 0.0,
    "lights": 0.0,
    "saturation": -0.15,
    "warmth": -0.32,
    "tint": 0.0,
    "grain": 0.0,
    "vignette": 0.0,
    "softness": 0.0
  }
} as const;
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
