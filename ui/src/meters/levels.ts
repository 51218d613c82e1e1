import type { LiveDesk, LiveLanes } from '../api/client';
import { touch } from './clock';

// Levels as they arrive, kept outside React. Every meter reads from here when it draws.
export interface Level {
  peak: number;
  rms: number;
  hold: number;
  heldAt: number;
  clips: number;
}

export const FLOOR_DB = -60;
const HOLD_MS = 1500;
/** The highest sample is at full scale within 0.1 dB: it was clipped, or as good as. */
export const CLIP_DB = -0.1;
/** Frames of history kept, 20 a second. */
export const HISTORY = 1200;

export interface History {
  peaks: Float32Array;
  /** 0: heard only, 1: captured, 2: resting while others were captured. */
  captured: Uint8Array;
  at: number;
}

export const lanes: Level[] = [];
export const desk: Level[] = [];
export const history: { lanes: History[]; desk: History[] } = { lanes: [], desk: [] };
export const progress: { capture: number | null; take_playback: number | null } = {
  capture: null,
  take_playback: null,
};

export const silence = (): Level => ({ peak: -144, rms: -144, hold: -144, heldAt: 0, clips: 0 });

export function hear(level: Level, peak: number, rms: number, now: number) {
  level.peak = peak;
  level.rms = rms;
  if (peak >= level.hold || now - level.heldAt > HOLD_MS) {
    level.hold = peak;
    level.heldAt = now;
  }
  if (peak >= CLIP_DB) level.clips += 1;
}

function hearAll(of: 'lanes' | 'desk', peaks: number[], rms: number[], captured: (lane: number) => number) {
  const levels = of === 'lanes' ? lanes : desk;
  const now = performance.now();
  peaks.forEach((peak, i) => {
    hear((levels[i] ??= silence()), peak, rms[i] ?? -144, now);
    keep((history[of][i] ??= emptyHistory()), peak, captured(i));
  });
}

const emptyHistory = (): History => ({
  peaks: new Float32Array(HISTORY).fill(-144),
  captured: new Uint8Array(HISTORY),
  at: 0,
});

function keep(line: History, peak: number, captured: number) {
  line.peaks[line.at % HISTORY] = peak;
  line.captured[line.at % HISTORY] = captured;
  line.at += 1;
}

export function hearLanes(frame: LiveLanes) {
  const state = (lane: number) => (frame.capture === null ? 0 : frame.resting.includes(lane) ? 2 : 1);
  hearAll('lanes', frame.peak, frame.rms, state);
  progress.capture = frame.capture;
  progress.take_playback = frame.take_playback;
  touch();
}

export function hearDesk(frame: LiveDesk) {
  hearAll('desk', frame.peak, frame.rms, () => 0);
  touch();
}

/** Forgets clips and held peaks. */
export function forgetClips() {
  [...lanes, ...desk].forEach((level) => {
    level.clips = 0;
    level.hold = level.peak;
  });
  touch();
}

/** Where a level stands on a meter, 0 to 1. */
export const onMeter = (db: number) => Math.min(1, Math.max(0, 1 - db / FLOOR_DB));

/** Where something is metered: which of the feeds, and the places in it (two for a stereo channel). */
export interface MeterPoints {
  of: 'desk' | 'lanes' | null;
  at: number[];
}
export interface MeterPoint {
  of: 'desk' | 'lanes';
  index: number;
}

/** Frames in ten seconds. */
export const TEN_SECONDS = 200;

const QUIET = silence();
export const levelOf = ({ of, index }: MeterPoint): Level => (of === 'desk' ? desk : lanes)[index] ?? QUIET;

/** The peak of a frame some frames ago. */
export function recentPeak({ of, index }: MeterPoint, back: number): number {
  const line = history[of][index];
  if (!line || back >= line.at || back >= HISTORY) return -144;
  return line.peaks[(line.at - 1 - back) % HISTORY] ?? -144;
}

/** The louder of what is metered together. */
export function loudest({ of, at }: MeterPoints, read: (point: MeterPoint) => number): number {
  return of === null ? -144 : Math.max(-144, ...at.map((index) => read({ of, index })));
}
