import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { Playback } from '../../../api/client';
import { change } from '../../../api/careful';
import { set } from '../../../api/edits';
import { cx } from '../../../look/cx';
import styles from '../../../look/look.module.css';
import { Select } from '../song/SongFields';
import own from '../playback.module.css';

/** The pilot for a changeover unit, and the frame rate of timecode. */
export function Pilot({ playback }: { playback: Playback }) {
  const { pilot } = playback;
  return (
    <section aria-label="Pilot">
      <h2>Pilot</h2>
      <div className={styles.row}>
        <button
          type="button"
          className={cx(styles.chip, pilot.on && styles.on)}
          aria-pressed={pilot.on}
          onClick={() => change({ 'playback/pilot_on': !pilot.on })}
        >
          {pilot.on ? 'On while the player is healthy' : 'Off'}
        </button>
        <TextField
          key={pilot.hz}
          size="small"
          label="Frequency (Hz)"
          defaultValue={pilot.hz}
          className={own.figure}
          onBlur={(event) =>
            Number(event.target.value) !== pilot.hz &&
            void set({ 'playback/pilot_hz': Number(event.target.value) })
          }
        />
        <TextField
          key={`${pilot.db} dB`}
          size="small"
          label="Level (dBFS)"
          defaultValue={pilot.db}
          className={own.figure}
          onBlur={(event) =>
            Number(event.target.value.replace('−', '-')) !== pilot.db &&
            void set({ 'playback/pilot_db': Number(event.target.value.replace('−', '-')) })
          }
        />
        {playback.roles.some((role) => role.kind === 'timecode') && (
          <Select
            label="Timecode (frames/s)"
            value={String(playback.timecode_fps)}
            onChange={(value) => change({ 'playback/timecode_fps': Number(value) })}
          >
            {['24', '25', '30'].map((fps) => (
              <MenuItem key={fps} value={fps}>
                timecode at {fps} frames
              </MenuItem>
            ))}
          </Select>
        )}
      </div>
    </section>
  );
}
