import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { api, taken } from '../../api/client';
import { useCommand } from '../../api/edits';
import { useLiveState } from '../../api/live';
import { useSoundDevices } from '../../api/queries';
import { count } from '../../look/format';
import { cx } from '../../look/cx';
import styles from '../../look/look.module.css';

const STATES = {
  running: 'running',
  busy: 'busy: another program uses it',
  gone: 'not found; retrying',
};

/** Where the recorder's sound comes from: the desk's card, or a sound card of this computer. */
export function SoundDevice() {
  const recorder = useLiveState()?.recorder;
  const card = recorder?.card;
  const foreign = recorder?.foreign ?? 0;
  const devices = useSoundDevices().data ?? [];
  const choose = useCommand((id: string | null) => taken(api.POST('/api/sound-devices', { body: { id } })));
  const chosen = card?.id ?? '';
  const missing = chosen !== '' && !devices.some((one) => one.id === chosen);
  return (
    <>
      <TextField
        select
        size="small"
        label="Sound comes from"
        slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
        value={chosen}
        disabled={choose.isPending}
        onChange={(event) => choose.mutate(event.target.value || null)}
      >
        <MenuItem value="">the desk’s card</MenuItem>
        {missing && <MenuItem value={chosen}>{card?.words}</MenuItem>}
        {devices.map((one) => (
          <MenuItem key={one.id} value={one.id}>
            {one.words}
          </MenuItem>
        ))}
      </TextField>
      {foreign > 0 && (
        <p className={cx(styles.quiet, styles.figure)}>
          {count(foreign, 'packet')} from other senders ignored.
        </p>
      )}
      {card?.device && (
        <p className={cx(card.state === 'running' ? styles.quiet : styles.inStop, styles.figure)}>
          {[
            STATES[card.state],
            card.lanes === null ? '' : count(card.lanes, 'lane'),
            card.overruns > 0 ? `samples lost ${card.overruns} times` : '',
            (card.lost ?? 0) > 0 ? `${card.lost} ms of playback lost` : '',
          ]
            .filter(Boolean)
            .join(' · ')}
        </p>
      )}
    </>
  );
}
