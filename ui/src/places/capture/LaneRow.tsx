import type { CSSProperties } from 'react';
import type { Track } from '../../api/client';
import { useThemeName } from '../../look/theme';
import { dyeColour } from '../../look/tokens';
import { type MeterPoint } from '../../meters/levels';
import { LevelText } from '../../meters/LevelText';
import { Meter } from '../../meters/Meter';
import { HistoryStrip } from './HistoryStrip';

interface LaneProps {
  track: Track;
  /** Whether it rests in the take under way; null while none is. */
  resting: boolean | null;
  onArm: (range: boolean) => void;
  onRest: (resting: boolean) => void;
}

/** One track: arm, name, its last minute, level with held peak and clip mark, and its rest while a take runs. */
export function LaneRow({ track, resting, onArm, onRest }: LaneProps) {
  const { name: theme } = useThemeName();
  const colour = dyeColour(track.dye, theme);
  const point: MeterPoint = { of: 'lanes', index: (track.inputs[0] ?? 1) - 1 };
  const name = track.title;
  const runs = resting !== null;
  return (
    <div
      className={`lane ${track.armed ? '' : 'off'} ${runs ? 'runs' : ''}`}
      style={{ '--dye': colour } as CSSProperties}
    >
      <button
        type="button"
        className="arm"
        aria-pressed={track.armed}
        aria-label={`Arm ${name}`}
        title={track.armed ? 'Armed' : 'Not armed'}
        onClick={(event) => onArm(event.shiftKey)}
      >
        <svg viewBox="0 0 18 18" aria-hidden="true">
          <circle
            cx="9"
            cy="9"
            r="6"
            stroke="var(--stop)"
            strokeWidth="2"
            fill={track.armed ? 'var(--stop)' : 'none'}
          />
        </svg>
      </button>
      <span className={`lane-name ${track.armed ? 'strong' : 'quiet'}`}>
        <span className="quiet figure">{track.number}</span> {name}
      </span>
      <HistoryStrip index={point.index} colour={colour} />
      <Meter point={point} label={`Level of ${name}`} />
      <LevelText point={point} />
      {runs && track.armed && (
        <button
          type="button"
          className={`rest ${resting ? 'look' : 'quiet'}`}
          aria-pressed={resting}
          aria-label={`${resting ? 'Resume' : 'Rest'} ${name}`}
          onClick={() => onRest(!resting)}
        >
          {resting ? 'resume' : 'rest'}
        </button>
      )}
    </div>
  );
}
