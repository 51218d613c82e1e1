import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { api, taken } from '../../api/client';
import { useCommand } from '../../api/edits';
import { useLiveState } from '../../api/live';
import { tell } from '../../api/notices';
import { cx } from '../../look/cx';
import styles from '../../look/look.module.css';
import own from './rig.module.css';

/** How long it takes from the computer through the desk and back, for overdubs; measured over one lane when asked. */
export function RoundTrip() {
  const state = useLiveState();
  const [lane, setLane] = useState(1);
  const rate = state?.rate ?? 48000;
  const ms = (frames: number) => `${((frames * 1000) / rate).toFixed(2)} ms`;
  const measure = useCommand(async () => {
    const { frames } = await taken(api.POST('/api/capture/trip', { body: { output: lane, input: lane } }));
    tell({ kind: 'info', text: `The round trip over lane ${lane} takes ${ms(frames)}.` });
  });
  const trip = state?.recorder.trip;
  return (
    <div>
      <p className={cx(styles.figure, styles.quiet)}>
        Overdub latency compensation: {trip === undefined ? '…' : ms(trip)}. To measure, flip a channel to
        take, tap its send at channel in, and select its lane.
      </p>
      <div className={cx(styles.row, styles.apart)}>
        <TextField
          label="Lane"
          size="small"
          type="number"
          className={own.tripField}
          value={lane}
          onChange={(event) => setLane(Math.max(1, Number(event.target.value)))}
        />
        <Button variant="outlined" disabled={measure.isPending} onClick={() => measure.mutate(undefined)}>
          Measure
        </Button>
      </div>
    </div>
  );
}
