import { memo } from 'react';
import type { Track } from '../../api/client';
import { type MeterPoint } from '../../meters/levels';
import { LevelText } from '../../meters/LevelText';
import { Meter } from '../../meters/Meter';
import { HistoryStrip } from './HistoryStrip';
import { cx } from '../../look/cx';
import styles from '../../look/look.module.css';
import own from './capture.module.css';

interface LaneProps {
  track: Track;
  /** Whether it rests in the take under way; null while none is. */
  resting: boolean | null;
  onArm: (track: Track, range: boolean) => void;
  onRest: (track: Track, resting: boolean) => void;
}

/** One track: arm, name, its last minute, level with held peak and clip mark, and its rest while a take runs. */
export const LaneRow = memo(function LaneRow({ track, resting, onArm, onRest }: LaneProps) {
  const point: MeterPoint = { of: 'lanes', index: (track.inputs[0] ?? 1) - 1 };
  const name = track.title;
  const runs = resting !== null;
  return (
    <div className={cx(own.lane, !track.armed && own.off, runs && own.runs)} data-dye={track.dye}>
      <button
        type="button"
        className={own.arm}
        aria-pressed={track.armed}
        aria-label={`Arm ${name}`}
        title={track.armed ? 'Armed' : 'Not armed'}
        onClick={(event) => onArm(track, event.shiftKey)}
      >
        <svg viewBox="0 0 18 18" aria-hidden="true">
          <circle cx="9" cy="9" r="6" />
        </svg>
      </button>
      <span className={cx(own.laneName, track.armed ? styles.strong : styles.quiet)}>
        <span className={cx(styles.quiet, styles.figure)}>{track.number}</span> {name}
      </span>
      <HistoryStrip index={point.index} dye={track.dye} />
      <Meter className={own.laneMeter} point={point} label={`Level of ${name}`} />
      <LevelText point={point} />
      {runs && track.armed && (
        <button
          type="button"
          className={cx(own.rest, resting ? cx(styles.strong, styles.inLook) : styles.quiet)}
          aria-pressed={resting}
          aria-label={`${resting ? 'Resume' : 'Pause'} ${name}`}
          onClick={() => onRest(track, !resting)}
        >
          {resting ? 'resume' : 'rest'}
        </button>
      )}
    </div>
  );
});
