import Button from '@mui/material/Button';
import { type RefObject, useEffect } from 'react';
import { cx } from '../../../look/cx';
import styles from '../../../look/look.module.css';
import type { Part, useCloser } from './closer';
import own from '../playback.module.css';

type CloserProps = ReturnType<typeof useCloser> & { rate: number };

/** From the whole song to its samples. */
export function ZoomButtons({ part, widen, move, whole, rate }: CloserProps) {
  return (
    <div className={cx(styles.row, own.closer)} role="group" aria-label="Zoom">
      <Button size="small" onClick={() => widen(0.5)}>
        Zoom in
      </Button>
      {part && (
        <>
          <Button size="small" onClick={() => widen(2)}>
            Zoom out
          </Button>
          <Button size="small" onClick={() => move(-0.5)}>
            ← Earlier
          </Button>
          <Button size="small" onClick={() => move(0.5)}>
            Later →
          </Button>
          <Button size="small" onClick={whole}>
            Fit
          </Button>
          <span className={cx(styles.quiet, styles.figure)}>
            {(part.from / rate).toFixed(3)} s to {(part.to / rate).toFixed(3)} s
          </span>
        </>
      )}
    </div>
  );
}

/** Ctrl and the wheel look closer about the pointer. */
export function useWheel(
  cloth: RefObject<HTMLDivElement | null>,
  widen: (times: number, about: number) => void,
  frames: number,
  part: Part | null,
) {
  useEffect(() => {
    const element = cloth.current;
    const turn = (event: WheelEvent) => {
      const canvas = (event.target as HTMLElement).closest('canvas');
      if (!event.ctrlKey || !canvas) return;
      event.preventDefault();
      const { left, width } = canvas.getBoundingClientRect();
      const { from, to } = part ?? { from: 0, to: frames };
      widen(event.deltaY > 0 ? 1.25 : 0.8, from + ((event.clientX - left) / width) * (to - from));
    };
    element?.addEventListener('wheel', turn, { passive: false });
    return () => element?.removeEventListener('wheel', turn);
  }, [cloth, widen, frames, part]);
}
