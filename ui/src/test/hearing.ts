import type { Hearing, Output, Outputs } from '../api/client';

// A small desk for tests of this place: Fiddle, Click and Tuba; the PA, Ada, and a drummer who hears nothing.
const source = (number: number, title: string, cue: string | null = null) => ({
  id: `channel/${number}`,
  title,
  number,
  dye: 'iron',
  cue,
});

export const hearingOf = (): Hearing => ({
  version: 7,
  levels: { from: 'desk', sheet: null, name: null, at: null },
  sources: [source(1, 'Fiddle'), source(2, 'Click', 'click'), source(3, 'Tuba')],
  listeners: [
    { number: 1, title: 'PA', kind: 'area', outlets: [['Output 15'], ['Output 16']] },
    { number: 2, title: 'Ada', kind: 'person', outlets: [['Output 1']] },
    { number: 3, title: 'Drummer', kind: 'person', outlets: [] },
  ],
  db: [
    [-4, -18, null],
    [null, -7, null],
    [-9, null, null],
  ],
  ms: [
    [0, 0, null],
    [null, 1.25, null],
    [0, null, null],
  ],
  ways: [
    [2, 1, 0],
    [0, 1, 0],
    [2, 0, 0],
  ],
  wishes: [
    wish(1, 'channel/2', 'Click', false, -7),
    wish(2, 'channel/2', 'Click', true, -7),
    wish(3, 'channel/3', 'Tuba', true, null),
  ],
});

function wish(number: number, id: string, title: string, kept: boolean, db: number | null) {
  return {
    number,
    words: 'at least −6 dB',
    source: id,
    source_title: title,
    listener: 2,
    listener_title: 'Ada',
    db,
    kept,
  };
}

const output = (number: number, part: Partial<Output> = {}): Output => ({
  number,
  source: null,
  tap: 'post-fader',
  delay: 0,
  polarity: false,
  expected: null,
  speaker: null,
  x: null,
  y: null,
  label: '',
  taken: null,
  taps: [],
  delay_ms: 0,
  expected_label: '',
  sockets: [],
  ...part,
});

const listener = (number: number, name: string) => ({
  number,
  name,
  kind: 'person' as const,
  hears: [],
  hears_right: [],
  x: null,
  y: null,
});

export const outputsOf = (part: Partial<Outputs> = {}): Outputs => ({
  version: 7,
  rate: 48000,
  temperature: 20,
  later_ms: 0,
  speed: 343.2,
  outputs: [
    output(1, { source: 'desk/bus/1', label: 'Bus 1 Ear Ada', speaker: 'zone', x: 0, y: 20 }),
    output(2),
    output(3),
  ],
  personal: [],
  outlets: [],
  buses: [],
  listeners: [listener(1, 'PA'), listener(2, 'Ada'), listener(3, 'Drummer')],
  wishes: [{ number: 1, kind: 'least', db: -6, sources: ['channel/2'], listeners: [2] }],
  zones: [],
  can: {
    sources: [
      { point: 'desk/bus/1', label: 'Bus 1 Ear Ada' },
      { point: 'desk/main/l', label: 'Main L' },
      { point: 'desk/main/r', label: 'Main R' },
    ],
    longest_ms: 500,
    polarity: true,
    taps: [{ id: 'post-fader', label: 'post-fader' }],
    mixing: { subgroups: true, pairs: true, bus_to_main: true, send_taps: [] },
  },
  ...part,
});
