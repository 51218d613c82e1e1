import { expect, test } from 'vitest';
import { port, showOf } from '../test/pieces';
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

test('where sound goes is never guessed, and what is inherited neither', () => {
  expect(echo(show, { 'channel/1/stage': 'desk/in/3', 'track/1/name': '', 'track/1/colour': null })).toBe(
    show,
  );
});
