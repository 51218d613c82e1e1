import { expect, test } from 'vitest';
import { clock, count, decibels, signed, span } from './format';

test('levels carry a real minus sign, and silence is told as such', () => {
  expect(decibels(-19.44)).toBe('−19.4');
  expect(decibels(0)).toBe('0.0');
  expect(decibels(-144)).toBe('−∞');
});

test('gains are signed, zero too', () => {
  expect([signed(3, 1), signed(-3, 1), signed(-0.01, 1)]).toEqual(['+3.0', '−3.0', '+0.0']);
});

test('times are mm:ss.s and never round up', () => {
  expect([clock(0), clock(9.99), clock(61.25), clock(3600)]).toEqual([
    '00:00.0',
    '00:09.9',
    '01:01.2',
    '1:00:00.0',
  ]);
});

test('spans and counts read like words', () => {
  expect([span(38), span(60 * 46), span(3600 * 9 + 46 * 60)]).toEqual(['38 s', '46 min', '9 h 46 min']);
  expect([count(1, 'channel'), count(2, 'channel')]).toEqual(['1 channel', '2 channels']);
});
