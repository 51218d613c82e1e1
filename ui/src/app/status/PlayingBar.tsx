import Button from '@mui/material/Button';
import { useEffect, useRef } from 'react';
import { api, taken } from '../../api/client';
import { useCommand } from '../../api/edits';
import { useLiveState } from '../../api/live';
import { clock } from '../../look/format';
import { eachFrame } from '../../meters/clock';
import { progress } from '../../meters/levels';
import { cx } from '../../look/cx';
import styles from '../../look/look.module.css';
import own from '../shell/shell.module.css';

/** The take that is playing, with its position and a stop button, on every page. */
export function PlayingBar() {
  const state = useLiveState();
  const playing = state?.recorder.take_playback ?? null;
  const stop = useCommand(() => taken(api.POST('/api/take-playback/stop', { body: {} })));
  if (!state || !playing) return null;
  const { from, to, loop } = playing;
  const part = from > 0 || to < playing.frames;
  return (
    <section className={own.playing} aria-label="Playing">
      <strong>
        Playing take {playing.number} {playing.name}
      </strong>
      <PlayTime rate={state.rate} frames={playing.frames} />
      {(loop || part) && (
        <span className={cx(styles.quiet, styles.figure)}>
          {loop ? 'loop' : 'part'}
          {part && ` of ${clock(from / state.rate)} to ${clock(to / state.rate)}`}
        </span>
      )}
      <Button
        size="small"
        variant="contained"
        onClick={() => stop.mutate(undefined)}
        disabled={stop.isPending}
      >
        Stop
      </Button>
      <a href="#/soundcheck">Soundcheck</a>
    </section>
  );
}

function PlayTime({ rate, frames }: { rate: number; frames: number }) {
  const time = useRef<HTMLSpanElement>(null);
  const line = useRef<HTMLSpanElement>(null);
  useEffect(
    () =>
      eachFrame(() => {
        const at = progress.take_playback ?? 0;
        const text = clock(at / rate);
        if (time.current && time.current.textContent !== text) time.current.textContent = text;
        if (line.current) line.current.style.transform = `scaleX(${Math.min(1, at / Math.max(1, frames))})`;
      }),
    [rate, frames],
  );
  return (
    <>
      <span className={styles.figure} role="timer" aria-label="Time played" ref={time} />
      <span className={own.playingLine} aria-hidden="true">
        <span ref={line} />
      </span>
      <span className={cx(styles.quiet, styles.figure)}>of {clock(frames / rate)}</span>
    </>
  );
}
