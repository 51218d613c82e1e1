import { expect, test } from 'vitest';
import {
  CLIP_DB,
  desk,
  forgetClips,
  hear,
  hearDesk,
  hearLanes,
  history,
  lanes,
  onMeter,
  progress,
  silence,
} from './levels';

test('the held peak stays until it is old or passed', () => {
  const level = silence();
  hear(level, -10, -20, 1000);
  hear(level, -30, -40, 1500);
  expect(level.hold).toBe(-10);
  hear(level, -5, -15, 1600);
  expect(level.hold).toBe(-5);
  hear(level, -30, -40, 9000);
  expect(level.hold).toBe(-30);
});

test('clips are counted at full scale, and forgotten on request', () => {
  hearDesk({ peak: [0, -20], rms: [-3, -30] });
  hearDesk({ peak: [CLIP_DB, -20], rms: [-3, -30] });
  expect(desk.map((level) => level.clips)).toEqual([2, 0]);
  forgetClips();
  expect(desk.map((level) => level.clips)).toEqual([0, 0]);
});

test('the history knows what was captured', () => {
  hearLanes({ position: 0, peak: [-20], rms: [-30], capture: null, take_playback: null, resting: [] });
  hearLanes({ position: 2400, peak: [-18], rms: [-28], capture: 2400, take_playback: 4800, resting: [] });
  const line = history.lanes[0];
  expect(line?.at).toBe(2);
  expect([...(line?.captured.slice(0, 2) ?? [])]).toEqual([0, 1]);
  expect(lanes[0]?.peak).toBe(-18);
  expect(progress).toEqual({ capture: 2400, take_playback: 4800 });
});

test('a meter shows the upper 60 dB', () => {
  expect([onMeter(0), onMeter(-30), onMeter(-60), onMeter(-144), onMeter(3)]).toEqual([1, 0.5, 0, 0, 1]);
});
