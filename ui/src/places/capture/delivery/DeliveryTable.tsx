import Checkbox from '@mui/material/Checkbox';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { DeliveryPlan } from '../../../api/client';
import { clock } from '../../../look/format';
import { Arrange } from './Arrange';
import { Begins } from './Begins';
import { changed, filesOf, type Row, withTrack } from './delivery';
import { cx } from '../../../look/cx';
import styles from '../../../look/look.module.css';
import own from '../capture.module.css';

interface TableProps {
  plan: DeliveryPlan;
  rows: Row[];
  onChange: (rows: Row[]) => void;
}

/** Each recording with its files, track, start and processing. */
export function DeliveryTable({ plan, rows, onChange }: TableProps) {
  const whole = Math.max(
    ...plan.items.map((item, at) => (rows[at]?.offset ?? 0) / plan.rate + item.length_s),
    0.001,
  );
  return (
    <table className={cx(styles.plain, styles.stacked, own.delivery)}>
      <thead>
        <tr>
          <th />
          <th>Recording</th>
          <th>Track</th>
          <th>Start (s)</th>
          <th>Place</th>
          <th>Processing</th>
          <th />
        </tr>
      </thead>
      <tbody>
        {plan.items.map((item, at) => (
          <tr key={`${filesOf(item)} ${at}`}>
            <td data-head="Take">
              <Checkbox
                size="small"
                checked={rows[at]?.taken ?? false}
                slotProps={{ input: { 'aria-label': `Take ${item.title}` } }}
                onChange={(_, on) => onChange(changed(rows, at, { taken: on }))}
              />
            </td>
            <td data-head="Recording" data-wide className={own.deliveredFiles}>
              {filesOf(item)}
            </td>
            <td data-head="Track">
              <TextField
                select
                size="small"
                variant="standard"
                className={own.ofTrack}
                slotProps={{ htmlInput: { 'aria-label': `Track of ${item.title}` } }}
                value={rows[at]?.track ?? 'own'}
                onChange={(event) =>
                  onChange(
                    withTrack(rows, at, event.target.value === 'own' ? null : Number(event.target.value)),
                  )
                }
              >
                <MenuItem value="own">no track</MenuItem>
                {plan.tracks.map((track) => (
                  <MenuItem key={track.number} value={track.number}>
                    {track.number} {track.title}
                  </MenuItem>
                ))}
              </TextField>
            </td>
            <td data-head="Start (s)">
              <Begins
                title={item.title}
                offset={rows[at]?.offset ?? 0}
                rate={plan.rate}
                onMove={(offset) => onChange(changed(rows, at, { offset }))}
              />
            </td>
            <td data-head="Place" className={styles.figure}>
              <Place from={(rows[at]?.offset ?? 0) / plan.rate} length={item.length_s} whole={whole} />
            </td>
            <td
              data-head="Processing"
              data-wide
              className={item.track === null || item.score < 0.85 ? styles.inLook : styles.quiet}
            >
              {item.notes.join('; ')}
            </td>
            <td>
              <Arrange items={plan.items} rows={rows} at={at} onChange={onChange} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Where a recording lies in the whole take, as times and as a picture. */
function Place({ from, length, whole }: { from: number; length: number; whole: number }) {
  const words = `${clock(from)} to ${clock(from + length)}`;
  return (
    <span className={own.placeOf}>
      <svg viewBox="0 0 100 6" preserveAspectRatio="none" role="img" aria-label={`Lies at ${words}`}>
        <rect className={own.placeWhole} width={100} height={6} />
        <rect
          className={own.placeTaken}
          x={(from / whole) * 100}
          width={Math.max(0.5, (length / whole) * 100)}
          height={6}
        />
      </svg>
      {words}
    </span>
  );
}
