/** Colour marks a keeper may put on a place: twelve muted hues, named, never the only sign of anything. */
export const hues = [
  'reed',
  'kelp',
  'teal',
  'slate',
  'storm',
  'heather',
  'plum',
  'rosehip',
  'rust',
  'sand',
  'lichen',
  'shingle',
] as const;
export type Hue = (typeof hues)[number];
