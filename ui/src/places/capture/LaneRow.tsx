import type { CSSProperties } from 'react';
import type { Show, Track } from '../../api/client';
import { set } from '../../api/queries';
import { useThemeName } from '../../look/theme';
import { dyeColour } from '../../look/tokens';
import { LevelText } from '../../meters/LevelText';
import { Meter, type MeterPoint } from '../../meters/Meter';
import { HistoryStrip } from './HistoryStrip';

/** One track: arm, name, its last minute, level with held peak and clip mark. */
export function LaneRow({ track, show }: { track: Track; show: Show }) {
  const { name: theme } = useThemeName();
  const dye = show.strands.find((strand) => strand.track === track.number)?.dye ?? 'iron';
  const colour = dyeColour(dye, theme);
  const point: MeterPoint = { of: 'lanes', index: (track.inputs[0] ?? 1) - 1 };
  const name = track.name || `Track ${track.number}`;
  return (
    <div className={`lane ${track.armed ? '' : 'off'}`} style={{ '--dye': colour } as CSSProperties}>
      <button
        type="button"
        className="arm"
        aria-pressed={track.armed}
        aria-label={`Arm ${name}`}
        title={track.armed ? 'Armed' : 'Not armed'}
        onClick={() =>
          void set(
            { [`track/${track.number}/armed`]: !track.armed },
            `${track.armed ? 'Disarm' : 'Arm'} ${name}`,
          )
        }
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
    </div>
  );
}
