import { act, fireEvent, render, screen } from '@testing-library/react';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { HOLD_MS, HoldButton } from './HoldButton';

const held = vi.fn();
const short = vi.fn();

beforeEach(() => {
  vi.useFakeTimers();
  held.mockClear();
  short.mockClear();
  render(
    <HoldButton onHeld={held} onShort={short}>
      Hold to stop
    </HoldButton>,
  );
});
afterEach(() => vi.useRealTimers());

const button = () => screen.getByRole('button', { name: 'Hold to stop' });
const wait = (ms: number) => act(() => vi.advanceTimersByTime(ms));
const calls = () => [held.mock.calls.length, short.mock.calls.length];

test('does it once it was held long enough', () => {
  fireEvent.pointerDown(button());
  wait(HOLD_MS - 1);
  expect(calls()).toEqual([0, 0]);
  wait(1);
  fireEvent.pointerUp(button());
  expect(calls()).toEqual([1, 0]);
});

test('a click, or a pointer that slips off, does nothing but say so', () => {
  fireEvent.pointerDown(button());
  fireEvent.pointerUp(button());
  fireEvent.pointerDown(button());
  wait(500);
  fireEvent.pointerLeave(button());
  wait(HOLD_MS * 2);
  expect(calls()).toEqual([0, 2]);
});

test('a key is held, too; its repeats do not count', () => {
  fireEvent.keyDown(button(), { key: ' ' });
  wait(600);
  fireEvent.keyDown(button(), { key: ' ', repeat: true });
  wait(400);
  expect(calls()).toEqual([1, 0]);
  fireEvent.keyDown(button(), { key: 'Enter' });
  fireEvent.keyUp(button(), { key: 'Enter' });
  fireEvent.keyDown(button(), { key: 'a' });
  wait(HOLD_MS * 2);
  expect(calls()).toEqual([1, 1]);
});
