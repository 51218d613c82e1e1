import Button from '@mui/material/Button';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useRef, useState } from 'react';
import { api, type Song, type SongChanges, taken } from '../../api/client';
import { useCommand } from '../../api/edits';
import { queries, refresh, useSong } from '../../api/queries';
import { Answered } from '../../app/Answered';
import { dialogOf } from '../../app/dialogOf';
import { cx } from '../../look/cx';
import styles from '../../look/look.module.css';
import { SectionTable } from './SectionTable';
import own from './playback.module.css';

interface SongDialogProps {
  id: string;
  onClose: () => void;
}

/** What a song is: name, tempo, sections, click; it is the same in all shows. */
export const SongDialog = dialogOf(
  function SongInside({ id, onClose }: SongDialogProps) {
    const song = useSong(id);
    return (
      <>
        <DialogTitle>{song.data?.name ?? 'Song'}</DialogTitle>
        <DialogContent>
          <Answered of={song} waiting="Reading the song …">
            {(data) => <Fields song={data} />}
          </Answered>
        </DialogContent>
        <DialogActions>
          <Undo song={song.data} />
          <Button onClick={onClose}>Close</Button>
        </DialogActions>
      </>
    );
  },
  { maxWidth: 'lg', fullWidth: true },
);

const took = async (song: Song) => {
  queries.setQueryData(['song', song.id], song);
  await refresh('songs', 'playback');
};

function Undo({ song }: { song: Song | undefined }) {
  const back = useCommand(async (of: Song) =>
    took(
      await taken(
        api.POST('/api/songs/{id}/undo', { params: { path: { id: of.id } }, body: { version: of.version } }),
      ),
    ),
  );
  return (
    <Button disabled={!song || song.version < 2 || back.isPending} onClick={() => song && back.mutate(song)}>
      Undo the last change
    </Button>
  );
}

function Fields({ song }: { song: Song }) {
  const save = useCommand(async (changes: SongChanges) =>
    took(
      await taken(
        api.POST('/api/songs/{id}/changes', {
          params: { path: { id: song.id } },
          body: { version: song.version, changes },
        }),
      ),
    ),
  );
  const put = (changes: SongChanges) => save.mutate(changes);
  const plain = song.tempos?.length === 1;
  return (
    <div className={own.fields}>
      <div className={styles.row}>
        <Text label="Name" value={song.name ?? ''} onKeep={(name) => put({ name })} />
        {plain ? (
          <>
            <Text
              label="Tempo (quarter notes a minute)"
              value={String(song.tempos?.[0]?.bpm ?? 120)}
              onKeep={(text) =>
                put({ tempos: [{ at: 0, bpm: Number(text.replace(',', '.')), ramp: false }] })
              }
            />
            <Tap onTempo={(bpm) => put({ tempos: [{ at: 0, bpm, ramp: false }] })} />
          </>
        ) : (
          <Tempos song={song} onKeep={(tempos) => put({ tempos })} />
        )}
        <Text
          label="Time signatures (bar: 7/8)"
          value={(song.meters ?? [])
            .map((one) => (one.bar === 1 ? one.meter : `${one.bar}: ${one.meter}`))
            .join(', ')}
          onKeep={(text) =>
            put({
              meters: text.split(',').map((part) => {
                const [first, second] = part.split(':').map((one) => one.trim());
                return second ? { bar: Number(first), meter: second } : { bar: 1, meter: first ?? '4/4' };
              }),
            })
          }
        />
        <Text
          label="First beat (s)"
          value={((song.start ?? 0) / song.rate).toFixed(3)}
          onKeep={(text) => put({ start: Math.round(Number(text.replace(',', '.')) * song.rate) })}
        />
      </div>
      <div className={styles.row}>
        <Pick
          label="Click"
          value={song.click?.on === false ? 'off' : 'on'}
          among={['on', 'off']}
          onPick={(value) => put({ click: { ...song.click, on: value === 'on' } })}
        />
        <Pick
          label="Sound"
          value={song.click?.sound ?? 'wood'}
          among={['wood', 'pin', 'shell', 'reed']}
          onPick={(value) => put({ click: { ...song.click, sound: value as 'wood' } })}
        />
        <Pick
          label="Divided in"
          value={song.click?.subdivision ?? 'beats'}
          among={['beats', 'quarters', 'eighths', 'triplets', 'sixteenths']}
          onPick={(value) => put({ click: { ...song.click, subdivision: value as 'beats' } })}
        />
        <Pick
          label="Count-in (bars)"
          value={String(song.click?.count_in ?? 1)}
          among={['0', '1', '2', '4']}
          onPick={(value) => put({ click: { ...song.click, count_in: Number(value) } })}
        />
        <Text
          label="Click’s level (dB)"
          value={String(song.click?.level_db ?? -12)}
          onKeep={(text) => put({ click: { ...song.click, level_db: Number(text.replace('−', '-')) } })}
        />
        <Pick
          label="After it"
          value={song.follows ?? 'hand'}
          among={['hand', 'on', 'pause']}
          words={{ hand: 'wait for a hand', on: 'go on at once', pause: 'go on after a pause' }}
          onPick={(value) => put({ follows: value as 'hand' })}
        />
        <Text
          label="All stems by (dB)"
          value={String(song.trim_db ?? 0)}
          onKeep={(text) => put({ trim_db: Number(text.replace('−', '-')) })}
        />
        {song.alike_db !== null && song.alike_db !== song.trim_db && (
          <Button size="small" onClick={() => put({ trim_db: song.alike_db ?? 0 })}>
            As loud as the others: {song.alike_db} dB
          </Button>
        )}
      </div>
      <div className={styles.row}>
        <Pick
          label="Spoken guide"
          value={song.guide?.on === true ? 'on' : 'off'}
          among={['on', 'off']}
          onPick={(value) => put({ guide: { ...song.guide, on: value === 'on' } })}
        />
        <Text
          label="Its language (en, de, fr …)"
          value={song.guide?.voice ?? 'en'}
          onKeep={(voice) => put({ guide: { ...song.guide, voice: voice.trim() } })}
        />
        <Text
          label="Words a minute"
          value={String(song.guide?.speed ?? 160)}
          onKeep={(text) => put({ guide: { ...song.guide, speed: Number(text) } })}
        />
        <Pick
          label="Counts the bar before"
          value={song.guide?.count === false ? 'no' : 'yes'}
          among={['yes', 'no']}
          onPick={(value) => put({ guide: { ...song.guide, count: value === 'yes' } })}
        />
        <Text
          label="Its level (dB)"
          value={String(song.guide?.level_db ?? -12)}
          onKeep={(text) => put({ guide: { ...song.guide, level_db: Number(text.replace('−', '-')) } })}
        />
      </div>
      <SectionTable song={song} onKeep={(sections) => put({ sections })} />
      <Stems song={song} onKeep={(stems) => put({ stems })} />
      <div className={styles.row}>
        <Text label="Words for the crew" value={song.crew ?? ''} onKeep={(crew) => put({ crew })} wide />
        <Text label="Notes" value={song.notes ?? ''} onKeep={(notes) => put({ notes })} wide />
      </div>
    </div>
  );
}

interface TextProps {
  label?: string;
  /** For those who hear it, where the table says what it is. */
  spoken?: string;
  value: string;
  onKeep: (text: string) => void;
  wide?: boolean;
}

/** Kept when it is left or with Enter. */
function Text({ label, spoken, value, onKeep, wide }: TextProps) {
  return (
    <TextField
      key={value}
      size="small"
      {...(label ? { label } : { slotProps: { htmlInput: { 'aria-label': spoken } } })}
      defaultValue={value}
      className={cx(wide && own.wide)}
      onBlur={(event) => event.target.value !== value && onKeep(event.target.value)}
      onKeyDown={(event) => event.key === 'Enter' && (event.target as HTMLInputElement).blur()}
    />
  );
}

interface PickProps {
  label: string;
  value: string;
  among: string[];
  words?: Record<string, string>;
  onPick: (value: string) => void;
}

const Pick = ({ label, value, among, words, onPick }: PickProps) => (
  <TextField
    select
    size="small"
    label={label}
    className={own.pickOne}
    value={value}
    onChange={(event) => onPick(event.target.value)}
  >
    {among.map((one) => (
      <MenuItem key={one} value={one}>
        {words?.[one] ?? one}
      </MenuItem>
    ))}
  </TextField>
);

const TAPS = 8;
const PAUSE_MS = 2000;

/** Tapped along with the song: the tempo of the last taps. */
function Tap({ onTempo }: { onTempo: (bpm: number) => void }) {
  const taps = useRef<number[]>([]);
  const [bpm, tell] = useState<number | null>(null);
  const tap = () => {
    const now = performance.now();
    const last = taps.current.at(-1);
    taps.current =
      last !== undefined && now - last < PAUSE_MS ? [...taps.current.slice(1 - TAPS), now] : [now];
    const [first] = taps.current;
    if (taps.current.length > 3 && first !== undefined)
      tell(Math.round((600_000 * (taps.current.length - 1)) / (now - first)) / 10);
  };
  return (
    <>
      <Button size="small" variant="outlined" onClick={tap}>
        Tap{bpm !== null && ` ${bpm}`}
      </Button>
      {bpm !== null && (
        <Button size="small" onClick={() => onTempo(Math.min(400, Math.max(20, bpm)))}>
          Take {bpm}
        </Button>
      )}
    </>
  );
}

/** Several tempos, each from a quarter note on: "0: 96, 16: 96 > , 48: 104"; > goes evenly to the next. */
function Tempos({ song, onKeep }: { song: Song; onKeep: (tempos: NonNullable<Song['tempos']>) => void }) {
  const value = (song.tempos ?? []).map((one) => `${one.at}: ${one.bpm}${one.ramp ? ' >' : ''}`).join(', ');
  const read = (text: string) =>
    text.split(',').map((part) => {
      const [at = '0', bpm = ''] = part.split(':').map((one) => one.trim());
      return {
        at: /^\d+$/.test(at) ? Number(at) : at,
        bpm: Number(bpm.replace('>', '').trim()),
        ramp: bpm.includes('>'),
      };
    });
  return (
    <Text
      label="Tempos (quarter note: tempo, > goes evenly)"
      value={value}
      onKeep={(text) => onKeep(read(text))}
      wide
    />
  );
}

function Stems({ song, onKeep }: { song: Song; onKeep: (stems: NonNullable<Song['stems']>) => void }) {
  const stems = song.stems ?? [];
  const put = (id: number, part: Partial<(typeof stems)[number]>) =>
    onKeep(stems.map((one) => (one.id === id ? { ...one, ...part } : one)));
  return (
    <table className={styles.plain}>
      <thead>
        <tr>
          <th>Stem</th>
          <th>Role</th>
          <th>Level (dB)</th>
          <th>Loses as mono</th>
          <td />
        </tr>
      </thead>
      <tbody>
        {stems.map((stem) => (
          <tr key={stem.id}>
            <th scope="row">{stem.name}</th>
            <td>
              <Text
                spoken={`Role of ${stem.name}`}
                value={stem.role}
                onKeep={(role) => role.trim() && put(stem.id, { role: role.trim() })}
              />
            </td>
            <td>
              <Text
                spoken={`Level of ${stem.name} in dB`}
                value={String(stem.gain_db ?? 0)}
                onKeep={(text) => put(stem.id, { gain_db: Number(text.replace('−', '-')) })}
              />
            </td>
            <td className={styles.figure}>
              {stem.mono_db === null || stem.mono_db === undefined
                ? 'mono'
                : stem.mono_db < -60
                  ? 'all of it'
                  : `${Math.max(0, -stem.mono_db).toFixed(1)} dB`}
            </td>
            <td>
              <button
                type="button"
                className={cx(styles.chip, !stem.mute && styles.on)}
                aria-pressed={!stem.mute}
                onClick={() => put(stem.id, { mute: !stem.mute })}
              >
                {stem.mute ? 'Muted' : 'Plays'}
              </button>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
