// Colours of both themes, after dyed thread on linen: Daylight is the light one, Blackout the dark one. Text colours on tinted
// grounds are darker (or lighter) than the dye itself, so that they reach a contrast of 4.5 to 1.
export type Scheme = 'light' | 'dark';

const light = {
  ground: '#F3EDE1',
  raised: '#FBF8F1',
  rail: '#EAE2D2',
  rule: '#D9D0BF',
  strong: '#23201C',
  text: '#23201C',
  quiet: '#6B645A',
  action: '#2E4A7D',
  onAction: '#FFFFFF',
  chosen: '#E2E8F3',
  look: '#7A5200',
  lookGround: '#FBF0D6',
  lookEdge: '#B57B00',
  stop: '#A8322D',
  stopGround: '#F7E3DD',
  well: '#41692F',
  meterGround: '#E6DECD',
  meterLow: '#4E7A3A',
  meterHigh: '#B57B00',
  meterOver: '#A8322D',
  band: '#CDDEC0',
};

const dark: typeof light = {
  ground: '#15120F',
  raised: '#1E1A16',
  rail: '#1A1613',
  rule: '#3A332B',
  strong: '#EDE6DA',
  text: '#EDE6DA',
  quiet: '#A99F90',
  action: '#8FA9E0',
  onAction: '#15120F',
  chosen: '#262C3A',
  look: '#E3B23C',
  lookGround: '#2E2614',
  lookEdge: '#E3B23C',
  stop: '#E5665E',
  stopGround: '#351C19',
  well: '#8BBF6E',
  meterGround: '#0C0A08',
  meterLow: '#8BBF6E',
  meterHigh: '#E3B23C',
  meterOver: '#E5665E',
  band: '#2C3B24',
};

// By name: in Daylight, in Blackout.
const DYES = {
  walnut: ['#6B4A33', '#B08A6E'],
  weld: ['#B5862B', '#E0AD4C'],
  cochineal: ['#8E3B5E', '#D5779F'],
  woad: ['#3E7CA6', '#6FA9D4'],
  madder: ['#A8322D', '#E5665E'],
  terracotta: ['#C98A6B', '#E8B296'],
  indigo: ['#2E4A7D', '#8FA9E0'],
  lichen: ['#4E7A3A', '#8BBF6E'],
  heather: ['#7B5EA7', '#B69BD9'],
  iron: ['#8A8378', '#B3ABA0'],
  verdigris: ['#5F8A8B', '#86B8B9'],
  saffron: ['#C46A1B', '#EE9A52'],
} as const;
export type Dye = keyof typeof DYES;

const dyesOf = (at: 0 | 1) =>
  Object.fromEntries(Object.entries(DYES).map(([name, pair]) => [name, pair[at]])) as Record<Dye, string>;

/** What canvases are drawn with, and what the theme's variables are made of. */
export const schemes = { light: { ...light, dye: dyesOf(0) }, dark: { ...dark, dye: dyesOf(1) } };
export type Colours = (typeof schemes)['light'];

/** A dye's colour; one that is not known is iron's. */
export const dyeOf = (colours: Colours, name: string): string => colours.dye[name as Dye] ?? colours.dye.iron;
