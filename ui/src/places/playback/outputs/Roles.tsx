import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { Playback, PlaybackRole } from '../../../api/client';
import { api, taken } from '../../../api/client';
import { change, changeBy } from '../../../api/careful';
import { useCommand } from '../../../api/edits';
import { tell } from '../../../api/notices';
import { lookAt } from '../../../api/preview';
import { refresh } from '../../../api/queries';
import { StateNote } from '../../../app/status/StateNote';
import { FootSwitch } from './FootSwitch';
import { Pilot } from './Pilot';
import { RoleGroups } from './RoleGroups';
import { SecondComputer } from './SecondComputer';
import { SoundCard } from './SoundCard';
import { cx } from '../../../look/cx';
import { level } from '../../../look/format';
import styles from '../../../look/look.module.css';
import { Select, Text } from '../song/SongFields';
import own from '../playback.module.css';

const KINDS = { parts: 'music', click: 'click', guide: 'spoken guide', pilot: 'pilot', timecode: 'timecode' };

/** The outputs of each role, for all songs, and the cables of the playback outputs. */
export function Roles({ playback }: { playback: Playback }) {
  const homeless = playback.roles.filter((role) => role.outputs.length === 0 && role.kind === 'parts');
  const others = playback.roles.filter((role) => !homeless.includes(role));
  return (
    <div className={own.roles}>
      <Steps playback={playback} />
      {playback.roles.length === 0 && (
        <StateNote kind="empty">No roles yet. Add a song to create them.</StateNote>
      )}
      {homeless.length > 0 && (
        <section aria-label="New roles">
          <h2>New: no output yet</h2>
          <Table playback={playback} roles={homeless} />
        </section>
      )}
      {others.length > 0 && (
        <section aria-label="Roles">
          <h2>Roles</h2>
          <RoleGroups playback={playback} />
          <Table playback={playback} roles={others} />
        </section>
      )}
      {playback.differs.length > 0 && (
        <p className={styles.inLook}>
          This show differs from the library:{' '}
          {playback.differs
            .map(
              (one) =>
                `${one.name} here on ${one.show.join(' and ') || 'none'}, there on ${one.library.join(' and ') || 'none'}`,
            )
            .join('; ')}
          .
        </p>
      )}
      <Cables playback={playback} />
      <Pilot playback={playback} />
      <FootSwitch />
      <SecondComputer />
    </div>
  );
}

function Steps({ playback }: { playback: Playback }) {
  const keep = useCommand(async () => {
    await taken(api.POST('/api/player/library-roles', { body: undefined as never }));
    tell({ kind: 'info', text: 'Now the default for all shows.' });
    await refresh('playback');
  });
  const plug = useCommand(async () => {
    await taken(api.POST('/api/player/cables', { body: undefined as never }));
    tell({ kind: 'info', text: 'The simulated cables are plugged as planned.' });
  });
  return (
    <div className={styles.tools}>
      <Button variant="outlined" size="small" onClick={() => void lookAt('playback_wishes')}>
        Add usual requirements…
      </Button>
      <Button size="small" onClick={() => void lookAt('split_playback', { first: 1 })}>
        Use two outputs…
      </Button>
      <Button size="small" onClick={() => keep.mutate(undefined)} disabled={playback.roles.length === 0}>
        Make default for all shows
      </Button>
      <Button size="small" onClick={() => plug.mutate(undefined)}>
        Plug the simulated cables
      </Button>
    </div>
  );
}

function Table({ playback, roles }: { playback: Playback; roles: PlaybackRole[] }) {
  return (
    <div className={own.scroll}>
      <table className={cx(styles.plain, styles.stacked, own.table)}>
        <thead>
          <tr>
            <th>Role</th>
            <th>Type</th>
            <th>Group</th>
            <th>Plays to</th>
            <th>Mono sum</th>
            <th>Level</th>
            <th>Also in click and guide</th>
            <th>Heard by</th>
          </tr>
        </thead>
        <tbody>
          {roles.map((role) => (
            <Row key={role.number} role={role} outputs={playback.outputs} />
          ))}
        </tbody>
      </table>
    </div>
  );
}

function Row({ role, outputs }: { role: PlaybackRole; outputs: Playback['outputs'] }) {
  const put = (field: string, value: unknown) => change({ [`role/${role.number}/${field}`]: value });
  const pairs = outputs.slice(0, -1).filter((one) => one.output % 2 === 1);
  const words = (output: number) => {
    const one = outputs.find((other) => other.output === output);
    const busy = one?.roles.filter((name) => name !== role.name) ?? [];
    return `${output} → ${one?.label ?? ''}${busy.length > 0 ? ` (${busy.join(', ')})` : ''}`;
  };
  const label = (output: number) => outputs.find((other) => other.output === output)?.label;
  const ends = (output: number) =>
    [...new Set([label(output), label(output + 1)])].filter(Boolean).join(', ');
  return (
    <tr>
      <th scope="row">{role.name}</th>
      <td data-head="Type">
        <Select label={`What ${role.name} is`} value={role.kind} onChange={(value) => put('kind', value)}>
          {Object.entries(KINDS).map(([kind, name]) => (
            <MenuItem key={kind} value={kind}>
              {name}
            </MenuItem>
          ))}
        </Select>
      </td>
      <td data-head="Group">
        <Text
          narrow
          spoken={`Group of ${role.name}`}
          value={role.group}
          onKeep={(group) => put('group', group.trim())}
        />
      </td>
      <td data-head="Plays to" data-wide>
        <Select
          label={`Outputs of ${role.name}`}
          value={role.outputs.join('+')}
          onChange={(value) => put('outputs', value === '' ? [] : value.split('+').map(Number))}
        >
          <MenuItem value="">none</MenuItem>
          {outputs.map((one) => (
            <MenuItem key={one.output} value={String(one.output)}>
              {words(one.output)}
            </MenuItem>
          ))}
          {pairs.map((one) => (
            <MenuItem key={`${one.output}+`} value={`${one.output}+${one.output + 1}`}>
              {one.output} and {one.output + 1} → {ends(one.output)}, left and right
            </MenuItem>
          ))}
        </Select>
      </td>
      <td data-head="Mono sum">
        <Select
          label={`Mono sum of ${role.name}`}
          value={String(role.sum_db)}
          onChange={(value) => put('sum_db', Number(value))}
        >
          <MenuItem value="-3">−3 dB</MenuItem>
          <MenuItem value="-6">−6 dB</MenuItem>
        </Select>
      </td>
      <td data-head="Level">
        <TextField
          key={role.gain_db}
          size="small"
          className={own.figure}
          defaultValue={role.gain_db}
          slotProps={{ htmlInput: { 'aria-label': `Level of ${role.name} in dB`, inputMode: 'decimal' } }}
          onBlur={(event) => {
            const value = Number(event.target.value.replace('−', '-'));
            if (value !== role.gain_db) put('gain_db', value);
          }}
        />
      </td>
      <td data-head="Also in click and guide">
        <Select
          label={`${role.name} also in click and guide`}
          value={role.bed_db === null ? '' : String(role.bed_db)}
          onChange={(value) => put('bed_db', value === '' ? null : Number(value))}
        >
          <MenuItem value="">no</MenuItem>
          {[-6, -12, -18, -24].map((db) => (
            <MenuItem key={db} value={String(db)}>
              {level(db)}
            </MenuItem>
          ))}
        </Select>
      </td>
      <td data-head="Heard by" data-wide>
        {role.heard_by.map((one) => `${one.name} ${level(one.db)}`).join(', ') || 'nobody'}
      </td>
    </tr>
  );
}

/** By which way outputs leave, and the sockets that they are cabled to. */
function Cables({ playback }: { playback: Playback }) {
  const byCard = playback.returns.length > 0;
  return (
    <section aria-label="Outputs of playback">
      <h2>Outputs</h2>
      <div className={styles.row}>
        <span>Playback device</span>
        <Select
          label="Playback device"
          value={playback.returns.join(',')}
          onChange={(value) =>
            change({ 'playback/returns': value === '' ? [] : value.split(',').map(Number) })
          }
        >
          {playback.ways.map((way) => (
            <MenuItem key={way.label} value={way.returns.join(',')}>
              {way.label}
            </MenuItem>
          ))}
        </Select>
        {byCard && (
          <span className={styles.quiet}>
            The recorder does not play to these returns. A backup computer needs a playback interface.
          </span>
        )}
      </div>
      <div className={cx(styles.row, own.way)}>
        <SoundCard />
      </div>
      {!byCard && <CableForm />}
      <ul className={own.outputs}>
        {playback.outputs
          .filter((one) => one.to || one.roles.length > 0)
          .map((one) => (
            <li key={one.output}>
              <b className={styles.figure}>{one.output}</b> → {one.label}
              <span className={styles.quiet}> {one.roles.join(', ') || 'nothing'}</span>
              {one.to && !byCard && (
                <Button size="small" onClick={() => change({ [`cable/${one.output}/to`]: null })}>
                  Unplug
                </Button>
              )}
            </li>
          ))}
      </ul>
    </section>
  );
}

function CableForm() {
  return (
    <div className={styles.row}>
      <form
        className={styles.row}
        onSubmit={(event) => {
          event.preventDefault();
          const data = new FormData(event.currentTarget);
          changeBy('cable', {
            first: Number(data.get('first')),
            count: Number(data.get('count')),
            socket: String(data.get('socket')).trim(),
          });
        }}
      >
        <TextField size="small" name="first" label="From output" defaultValue="1" className={own.figure} />
        <TextField size="small" name="count" label="Count" defaultValue="2" className={own.figure} />
        <TextField size="small" name="socket" label="to socket" placeholder="desk/in/5" />
        <Button type="submit" size="small">
          Cable
        </Button>
      </form>
    </div>
  );
}
