import Button from '@mui/material/Button';
import type { DeliveryPlan } from '../../../api/client';
import { count } from '../../../look/format';
import styles from '../../../look/look.module.css';
import { firstOfEach, type Row, tickedAll } from './delivery';

interface ToolsProps {
  plan: DeliveryPlan;
  rows: Row[];
  onChange: (rows: Row[]) => void;
  /** Only the first part of those that come in parts. */
  onFirstPart: () => void;
}

/** Ticks many recordings at once, and says what has no track and which tracks have no file. */
export function DeliveryTools({ plan, rows, onChange, onFirstPart }: ToolsProps) {
  const trackless = rows.flatMap((row, at) => (row.track === null ? [at] : []));
  const given = new Set(rows.map((row) => row.track));
  const fileless = plan.tracks.filter((track) => !given.has(track.number));
  const some = trackless.some((at) => rows[at]?.taken);
  return (
    <>
      <div className={styles.row}>
        <Button onClick={() => onChange(tickedAll(rows, true))}>Tick all</Button>
        <Button onClick={() => onChange(tickedAll(rows, false))}>Untick all</Button>
        <Button
          onClick={() => {
            onChange(firstOfEach(plan.items, rows));
            onFirstPart();
          }}
        >
          Only the first of each name
        </Button>
        {trackless.length > 0 && (
          <Button onClick={() => onChange(tickedAll(rows, !some, trackless))}>
            {some ? 'Untick' : 'Tick'} {trackless.length} without a track
          </Button>
        )}
      </div>
      {fileless.length > 0 && (
        <details className={styles.note}>
          <summary>{count(fileless.length, 'track')} without a file</summary>
          {fileless.map((track) => `${track.number} ${track.title}`).join(', ')}
        </details>
      )}
    </>
  );
}
