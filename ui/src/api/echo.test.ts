import { expect, test } from 'vitest';
import { port, showOf } from '../test/pieces';
import type { Settings } from './client';
import { echo } from './echo';

const show = showOf({
  channels: [
    { number: 1, name: 'Tuba' },
    { number: 2, name: 'Horn' },
  ],
  tracks: [{ number: 1, name: '', armed: false }],
  sheet: {
    ports: [port('channel', 0, { name: 'Tuba' }), port('channel', 1, { name: 'Horn' }), port('track', 0)],
  },
});

test('names, dyes and arms are seen at once, where they stand', () => {
  const after = echo(show, {
    'channel/2/name': 'Tenor horn',
    'channel/1/colour': 'woad',
    'track/1/armed': true,
  });
  expect(after.channels.map((one) => one.name)).toEqual(['Tuba', 'Tenor horn']);
  expect(after.sheet.ports.map((one) => [one.name, one.dye, one.note])).toEqual([
    ['Tuba', 'woad', ''],
    ['Tenor horn', 'iron', ''],
    ['', 'iron', 'armed'],
  ]);
  expect(after.sheet.ports[0]).not.toBe(show.sheet.ports[0]);
});

const wired = showOf({
  channels: [],
  tracks: [],
  sheet: {
    ports: [
      port('socket', 0, { id: 'desk/in/1', dye: 'woad' }),
      port('channel', 0, { id: 'desk/ch/1', dye: 'rust' }),
      port('channel', 1, { id: 'desk/ch/2/l', number: 2 }),
      port('channel', 2, { id: 'desk/ch/2/r', number: 2 }),
      port('send', 0, { id: 'card/send/1' }),
      port('send', 1, { id: 'card/send/2' }),
      port('track', 0, { id: 'track/1/in/l', number: 1 }),
      port('track', 1, { id: 'track/1/in/r', number: 1 }),
    ],
    threads: [
      { from: 'desk/ch/1', to: 'card/send/1', dye: 'rust', straight: true, strands: ['tuba'] },
      { from: 'card/send/1', to: 'track/1/in/l', dye: 'rust', straight: true, strands: ['tuba'] },
    ],
  },
});
const threadsAfter = (settings: Settings) =>
  echo(wired, settings).sheet.threads.map(({ from, to, strands }) => [from, to, strands.length]);

test('a connection that an edit takes away is gone at once, and nothing else', () => {
  expect(threadsAfter({ 'send/1/source': null })).toEqual([['card/send/1', 'track/1/in/l', 1]]);
  expect(threadsAfter({ 'track/1/inputs': [] })).toEqual([['desk/ch/1', 'card/send/1', 1]]);
});

test('a connection that an edit asks for is drawn without a strand, in the dye of its source', () => {
  expect(
    threadsAfter({ 'send/1/source': null, 'send/2/source': 'desk/ch/1', 'track/1/inputs': [2, 1] }),
  ).toEqual([
    ['desk/ch/1', 'card/send/2', 0],
    ['card/send/2', 'track/1/in/l', 0],
    ['card/send/1', 'track/1/in/r', 0],
  ]);
  const stage = echo(wired, { 'channel/1/stage': 'desk/in/1' }).sheet.threads.at(-1);
  expect(stage).toEqual({ from: 'desk/in/1', to: 'desk/ch/1', dye: 'woad', straight: true, strands: [] });
});

test('a source that is not on the sheet, and that of a stereo channel, wait for the answer', () => {
  expect(threadsAfter({ 'send/1/source': 'desk/bus/4' })).toEqual([['card/send/1', 'track/1/in/l', 1]]);
  expect(echo(wired, { 'channel/2/stage': 'desk/in/1' })).toBe(wired);
});

test('what is inherited waits for the answer', () => {
  expect(echo(show, { 'track/1/name': '', 'track/1/colour': null })).toBe(show);
});
