import type { LiveDesk, LiveLanes } from '../api/client';

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
  captured: Uint8Array;
  at: number;
}

export const lanes: Level[] = [];
export const desk: Level[] = [];
export const history: History[] = [];
export const progress: { capture: number | null; playback: number | null } = {
  capture: null,
  playback: null,
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

function hearAll(levels: Level[], peaks: number[], rms: number[]) {
  const now = performance.now();
  peaks.forEach((peak, i) => hear((levels[i] ??= silence()), peak, rms[i] ?? -144, now));
}

export function hearLanes(frame: LiveLanes) {
  hearAll(lanes, frame.peak, frame.rms);
  progress.capture = frame.capture;
  progress.playback = frame.playback;
  frame.peak.forEach((peak, i) => {
    const line = (history[i] ??= {
      peaks: new Float32Array(HISTORY).fill(-144),
      captured: new Uint8Array(HISTORY),
      at: 0,
    });
    line.peaks[line.at % HISTORY] = peak;
    line.captured[line.at % HISTORY] = frame.capture === null ? 0 : 1;
    line.at += 1;
  });
}

export const hearDesk = (frame: LiveDesk) => hearAll(desk, frame.peak, frame.rms);

/** Forgets clips and held peaks. */
export function forgetClips() {
  [...lanes, ...desk].forEach((level) => {
    level.clips = 0;
    level.hold = level.peak;
  });
}

/** Where a level stands on a meter, 0 to 1. */
export const onMeter = (db: number) => Math.min(1, Math.max(0, 1 - db / FLOOR_DB));
