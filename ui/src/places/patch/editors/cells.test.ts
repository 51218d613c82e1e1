import { expect, test } from 'vitest';
import { emptying, forAll, namesFor, numbersOf, portOf } from './cells';
import { port, showOf } from '../../../test/pieces';

test('one name is numbered on, a list is taken line by line', () => {
  expect(namesFor('Choir', 3)).toEqual(['Choir 1', 'Choir 2', 'Choir 3']);
  expect(namesFor('Cornet 4', 2)).toEqual(['Cornet 4', 'Cornet 5']);
  expect(namesFor('Tuba', 1)).toEqual(['Tuba']);
  expect(namesFor('Tuba\r\n Fiddle \nDrum', 2)).toEqual(['Tuba', 'Fiddle']);
});

test('the same setting for a range, and both sides of a stereo channel once', () => {
  const ports = [
    port('channel', 0),
    port('channel', 1, { number: 17, id: 'ch/17/l' }),
    port('channel', 2, { number: 17, id: 'ch/17/r' }),
  ];
  expect(forAll('channel', numbersOf(ports), 'colour', () => 'woad')).toEqual({
    'channel/1/colour': 'woad',
    'channel/17/colour': 'woad',
  });
});

test('emptying a socket takes it from everybody who hears it', () => {
  const show = showOf({
    channels: [
      { number: 1, stage: 'desk/in/3', take: null },
      { number: 2, stage: 'desk/in/3', take: null },
      { number: 3, stage: 'desk/in/4', take: null },
    ],
  });
  expect(emptying(show, port('socket', 2, { id: 'desk/in/3' }))).toEqual({
    'channel/1/stage': null,
    'channel/2/stage': null,
  });
  expect(emptying(show, port('socket', 8, { id: 'desk/in/9' }))).toBeNull();
  expect(emptying(show, port('track', 0))).toEqual({ 'track/1/inputs': [] });
});

test('a setting leads to the port where it is changed', () => {
  const track = port('track', 4);
  const show = showOf({ sheet: { ports: [port('channel', 4), track] } });
  expect(portOf(show, 'track/5/inputs')).toBe(track);
  expect(portOf(show, 'output/5/source')).toBeUndefined();
});
