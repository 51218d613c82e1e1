import Button from '@mui/material/Button';
import { api, taken, type PlaybackItem, type Song } from '../../../api/client';
import { complain, set } from '../../../api/edits';
import { useExports } from '../../../api/queries';
import styles from '../../../look/look.module.css';
import { Pick, Text } from '../song/SongFields';

const KEYS = Array.from({ length: 13 }, (_, at) => String(6 - at));
const KEY_WORDS = Object.fromEntries(
  KEYS.map((one) => [
    one,
    one === '0' ? 'as it is' : `${Number(one) > 0 ? 'up' : 'down'} ${Math.abs(Number(one))}`,
  ]),
);

/** Tempo and key for tonight; the stems are rendered in advance. */
export function TempoAndKey({ song, item }: { song: Song; item: PlaybackItem }) {
  const put = (field: string, value: number) => void set({ [`setlist/${item.key}/${field}`]: value });
  const job = (useExports().data ?? []).find(
    (one) => one.kind === 'vary' && one.state !== 'done' && one.name.startsWith(`${song.name}, `),
  );
  const busy = job && ['waiting', 'running'].includes(job.state);
  const make = () =>
    void taken(
      api.POST('/api/songs/{id}/vary', {
        params: { path: { id: song.id } },
        body: { tempo: item.tempo, key: item.key_by },
      }),
    ).catch(complain);
  return (
    <>
      <Text
        narrow
        label="Tempo (%)"
        value={String(item.tempo)}
        onKeep={(text) => put('tempo', Number(text))}
      />
      <Pick
        label="Key (semitones)"
        value={String(item.key_by)}
        among={KEYS}
        words={KEY_WORDS}
        onPick={(key) => put('key', Number(key))}
      />
      {!item.made && (
        <Button variant="contained" size="small" disabled={busy} onClick={make}>
          {busy
            ? `Rendering stems, ${Math.round((100 * job.done) / Math.max(1, job.total))} %`
            : 'Render stems'}
        </Button>
      )}
      {!item.made && job?.error && <span className={styles.inStop}>{job.error}</span>}
    </>
  );
}
