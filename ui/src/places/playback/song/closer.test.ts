import { expect, test } from 'vitest';
import { later, widened } from './closer';

const HOUR = 3600 * 48_000;
const PLACE = HOUR / 4 + 12_345;

test('it goes from the whole song down to samples, and stays about the place', () => {
  let part = widened(null, HOUR, 0.5, HOUR / 4);
  expect(part).toEqual({ from: HOUR / 8, to: HOUR / 8 + HOUR / 2 });
  for (let step = 0; step < 40; step++) part = widened(part, HOUR, 0.5, PLACE);
  expect(part && part.to - part.from).toBe(256);
  expect(part && part.from <= PLACE && PLACE < part.to).toBe(true);
});

test('it never leaves the song, and as wide as the song it is the song', () => {
  expect(widened({ from: 10, to: 1010 }, 2000, 4)).toBeNull();
  expect(widened({ from: 10, to: 1010 }, 2000, 1.5)).toEqual({ from: 0, to: 1500 });
  expect(later({ from: 500, to: 1500 }, 2000, 0.9)).toEqual({ from: 1000, to: 2000 });
  expect(later({ from: 500, to: 1500 }, 2000, -0.9)).toEqual({ from: 0, to: 1000 });
});
