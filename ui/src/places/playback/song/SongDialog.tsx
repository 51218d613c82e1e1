import Button from '@mui/material/Button';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { api, type Song, type SongChanges, taken } from '../../../api/client';
import { useCommand } from '../../../api/edits';
import { queries, refresh, songKey, useSong } from '../../../api/queries';
import { QueryState } from '../../../app/status/QueryState';
import { dialogOf } from '../../../app/dialogs/dialogOf';
import styles from '../../../look/look.module.css';
import { ClickFields } from './ClickFields';
import { type SectionPlace, SectionTable } from './SectionTable';
import { Pick, Tap, Text } from './SongFields';
import { StemTable } from './StemTable';
import own from '../playback.module.css';

interface SongDialogProps {
  id: string;
  onClose: () => void;
}

/** Edits a song: name, tempo, sections, click. It is the same in all shows. */
export const SongDialog = dialogOf(
  function SongInside({ id, onClose }: SongDialogProps) {
    const song = useSong(id);
    return (
      <>
        <DialogTitle>{song.data?.name ?? 'Song'}</DialogTitle>
        <DialogContent>
          <QueryState of={song} waiting="Reading the song …">
            {(data) => <Fields song={data} />}
          </QueryState>
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
  queries.setQueryData(songKey(song.id), song);
  await refresh('song', 'songs', 'playback');
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
  const begin = useCommand(async (place: SectionPlace) =>
    took(
      await taken(
        api.POST('/api/songs/{id}/sections', {
          params: { path: { id: song.id } },
          body: { version: song.version, ...place },
        }),
      ),
    ),
  );
  const plain = song.tempos?.length === 1;
  return (
    <div className={own.fields}>
      <div className={styles.row}>
        <Text label="Name" value={song.name ?? ''} onKeep={(name) => put({ name })} />
        {plain ? (
          <>
            <Text
              label="Tempo (quarter notes per minute)"
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
      <ClickFields song={song} onKeep={(click) => put({ click })} />
      <div className={styles.row}>
        <Pick
          label="Next song"
          value={song.follows ?? 'hand'}
          among={['hand', 'on', 'pause']}
          words={{ hand: 'manual start', on: 'start at once', pause: 'start after a pause' }}
          onPick={(value) => put({ follows: value as 'hand' })}
        />
        <Text
          label="Song gain (dB)"
          value={String(song.trim_db ?? 0)}
          onKeep={(text) => put({ trim_db: Number(text.replace('−', '-')) })}
        />
        {song.alike_db !== null && song.alike_db !== song.trim_db && (
          <Button size="small" onClick={() => put({ trim_db: song.alike_db ?? 0 })}>
            Match other songs: {song.alike_db} dB
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
          label="Language (en, de, fr …)"
          value={song.guide?.voice ?? 'en'}
          onKeep={(voice) => put({ guide: { ...song.guide, voice: voice.trim() } })}
        />
        <Text
          label="Words per minute"
          value={String(song.guide?.speed ?? 160)}
          onKeep={(text) => put({ guide: { ...song.guide, speed: Number(text) } })}
        />
        <Pick
          label="Count before"
          value={song.guide?.count === false ? 'no' : 'yes'}
          among={['yes', 'no']}
          onPick={(value) => put({ guide: { ...song.guide, count: value === 'yes' } })}
        />
        <Text
          label="Level (dB)"
          value={String(song.guide?.level_db ?? -12)}
          onKeep={(text) => put({ guide: { ...song.guide, level_db: Number(text.replace('−', '-')) } })}
        />
      </div>
      <SectionTable
        song={song}
        onKeep={(sections) => put({ sections })}
        onPlace={(place) => begin.mutate(place)}
      />
      <StemTable song={song} onKeep={(stems) => put({ stems })} />
      <div className={styles.row}>
        <Text label="Crew note" value={song.crew ?? ''} onKeep={(crew) => put({ crew })} wide />
        <Text label="Notes" value={song.notes ?? ''} onKeep={(notes) => put({ notes })} wide />
      </div>
    </div>
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
      label="Tempos (quarter note: tempo, > ramps)"
      value={value}
      onKeep={(text) => onKeep(read(text))}
      wide
    />
  );
}
