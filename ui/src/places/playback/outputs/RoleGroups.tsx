import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { Playback, PlaybackRole } from '../../../api/client';
import { change } from '../../../api/careful';
import { level } from '../../../look/format';
import styles from '../../../look/look.module.css';
import own from '../playback.module.css';

/** Roles in groups: their outputs and gains are set together. */
export function RoleGroups({ playback }: { playback: Playback }) {
  const names = [...new Set(playback.roles.map((role) => role.group).filter((name) => name !== ''))];
  return (
    <>
      {names.map((name) => (
        <Group
          key={name}
          name={name}
          roles={playback.roles.filter((role) => role.group === name)}
          outputs={playback.outputs}
        />
      ))}
    </>
  );
}

interface GroupProps {
  name: string;
  roles: PlaybackRole[];
  outputs: Playback['outputs'];
}

function Group({ name, roles, outputs }: GroupProps) {
  const put = (field: string, value: (role: PlaybackRole) => unknown) =>
    change(Object.fromEntries(roles.map((role) => [`role/${role.number}/${field}`, value(role)])));
  const places = [...new Set(roles.map((role) => role.outputs.join('+')))];
  const gains = [...new Set(roles.map((role) => role.gain_db))];
  const pairs = outputs.slice(0, -1).filter((one) => one.output % 2 === 1);
  return (
    <div className={styles.row} role="group" aria-label={`Group ${name}`}>
      <b>{name}</b>
      <span className={styles.quiet}>{roles.map((role) => role.name).join(', ')}</span>
      <TextField
        select
        size="small"
        label={`${name} plays to`}
        className={own.pickOne}
        value={places.length === 1 ? places[0] : 'several'}
        onChange={(event) => put('outputs', () => event.target.value.split('+').filter(Boolean).map(Number))}
      >
        {places.length > 1 && (
          <MenuItem value="several" disabled>
            several
          </MenuItem>
        )}
        <MenuItem value="">none</MenuItem>
        {outputs.map((one) => (
          <MenuItem key={one.output} value={String(one.output)}>
            {one.output} → {one.label}
          </MenuItem>
        ))}
        {pairs.map((one) => (
          <MenuItem key={`${one.output}+`} value={`${one.output}+${one.output + 1}`}>
            {one.output} and {one.output + 1}, left and right
          </MenuItem>
        ))}
      </TextField>
      <Button
        size="small"
        aria-label={`${name} 1 dB softer`}
        onClick={() => put('gain_db', (role) => role.gain_db - 1)}
      >
        −1 dB
      </Button>
      <Button
        size="small"
        aria-label={`${name} 1 dB louder`}
        onClick={() => put('gain_db', (role) => role.gain_db + 1)}
      >
        +1 dB
      </Button>
      <span className={styles.figure}>
        {gains.length === 1
          ? level(gains[0] ?? 0)
          : `${level(Math.min(...gains))} to ${level(Math.max(...gains))}`}
      </span>
    </div>
  );
}
