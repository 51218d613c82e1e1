import Button from '@mui/material/Button';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import Switch from '@mui/material/Switch';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import type { Port, Show } from '../../../api/client';
import { set } from '../../../api/edits';
import { lookAt } from '../../../api/preview';
import { NumberField } from '../../../app/controls/NumberField';
import { cx } from '../../../look/cx';
import { dialogOf } from '../../../app/dialogs/dialogOf';
import styles from '../../../look/look.module.css';
import own from '../sheet/sheet.module.css';

interface TracksProps {
  onClose: () => void;
  chosen: Port[];
  show: Show;
}

function TracksForm({ onClose, chosen, show }: TracksProps) {
  const range = chosen.length > 1 && chosen[0]?.rail === 'channel' ? chosen : [];
  const [first, setFirst] = useState(range[0]?.number ?? 1);
  const [count, setCount] = useState(
    range.length || Math.max(1, show.channels.filter((one) => one.name !== '').length),
  );
  const [track, setTrack] = useState(first);
  const [lane, setLane] = useState(first);
  const [stereo, setStereo] = useState(false);
  const mixTaken = show.sends.some((send) => send.source === 'desk/main/l');
  const look = () => void lookAt('tracks', { first, count, track, lane, stereo }, { onDone: onClose });
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        look();
      }}
    >
      <DialogTitle>Tracks from channels</DialogTitle>
      <DialogContent>
        <div className={cx(styles.stack, own.narrow)}>
          <div className={styles.pair}>
            <NumberField label="First channel" value={first} onChange={setFirst} />
            <NumberField label="Number of channels" value={count} onChange={setCount} />
            <NumberField label="First track" value={track} onChange={setTrack} />
            <NumberField label="First card lane" value={lane} onChange={setLane} />
          </div>
          <FormControlLabel
            label="Stereo: two neighbouring channels make one track"
            control={<Switch checked={stereo} onChange={(_, next) => setStereo(next)} />}
          />
          <p className={styles.hint}>
            Lanes are assigned in order from the first; each track returns to its own channel. Names and dyes
            follow the channel unless set.
          </p>
          <TextField
            select
            label="Default tap"
            size="small"
            value={show.setup.default_tap}
            onChange={(event) => void set({ 'setup/default_tap': event.target.value })}
          >
            {show.profile.taps.map((tap) => (
              <MenuItem key={tap.id} value={tap.id}>
                {tap.label}
              </MenuItem>
            ))}
          </TextField>
          <Button variant="outlined" disabled={mixTaken} onClick={() => void lookAt('main_mix')}>
            {mixTaken ? 'The main mix is captured' : 'Capture the main mix on a spare pair…'}
          </Button>
        </div>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Close</Button>
        <Button type="submit" variant="contained">
          Preview tracks…
        </Button>
      </DialogActions>
    </form>
  );
}

/** Creates tracks from channels; sets the default tap; captures the main mix on a spare pair. */
export const TracksDialog = dialogOf(TracksForm);
