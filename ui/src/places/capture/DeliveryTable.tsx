import Checkbox from '@mui/material/Checkbox';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { DeliveryPlan } from '../../api/client';
import { clock } from '../../look/format';
import { type Choice, withTrack } from './delivery';
import { cx } from '../../look/cx';
import styles from '../../look/look.module.css';
import own from './capture.module.css';

interface TableProps {
  plan: DeliveryPlan;
  chosen: Choice[];
  onChoose: (chosen: Choice[]) => void;
}

/** Each recording with its files, the track it goes to, where it begins, and what is done to it. */
export function DeliveryTable({ plan, chosen, onChoose }: TableProps) {
  const take = (at: number, taken: boolean) =>
    onChoose(chosen.map((choice, index) => (index === at ? { ...choice, taken } : choice)));
  return (
    <table className={cx(styles.plain, own.delivery)}>
      <thead>
        <tr>
          <th />
          <th>Delivered</th>
          <th>Goes to track</th>
          <th>Begins</th>
          <th>Length</th>
          <th>What is done to it</th>
        </tr>
      </thead>
      <tbody>
        {plan.items.map((item, at) => (
          <tr key={item.files[0]}>
            <td>
              <Checkbox
                size="small"
                checked={chosen[at]?.taken ?? false}
                slotProps={{ input: { 'aria-label': `Take ${item.names[0]}` } }}
                onChange={(_, on) => take(at, on)}
              />
            </td>
            <td>{item.names.join(', ')}</td>
            <td>
              <TextField
                select
                size="small"
                variant="standard"
                className={own.ofTrack}
                slotProps={{ htmlInput: { 'aria-label': `Track of ${item.names[0]}` } }}
                value={chosen[at]?.track ?? 'own'}
                onChange={(event) =>
                  onChoose(
                    withTrack(chosen, at, event.target.value === 'own' ? null : Number(event.target.value)),
                  )
                }
              >
                <MenuItem value="own">none of the show’s</MenuItem>
                {plan.tracks.map((track) => (
                  <MenuItem key={track.number} value={track.number}>
                    {track.number} {track.title}
                  </MenuItem>
                ))}
              </TextField>
            </td>
            <td className={styles.figure}>{clock(item.offset_s)}</td>
            <td className={styles.figure}>{clock(item.length_s)}</td>
            <td className={item.track === null || item.score < 0.85 ? styles.inLook : styles.quiet}>
              {item.notes.join('; ')}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
