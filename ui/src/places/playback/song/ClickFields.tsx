import Button from '@mui/material/Button';
import { api, type Song, taken } from '../../../api/client';
import { useCommand } from '../../../api/edits';
import { tell } from '../../../api/notices';
import styles from '../../../look/look.module.css';
import { Pick, Text } from './SongFields';

type Click = Song['click'];

interface ClickFieldsProps {
  song: Song;
  onKeep: (click: Click) => void;
}

/** The accented beats, as a list such as "1, 4, 6". */
const beats = (text: string) =>
  text
    .split(/[ ,;+]+/)
    .filter((one) => one !== '')
    .map(Number);

/** What counts the band in: computed from the tempos, with its sound and accents, or a stem that came with the song. */
export function ClickFields({ song, onKeep }: ClickFieldsProps) {
  const click = song.click ?? {};
  const put = (part: Partial<Click>) => onKeep({ ...click, ...part });
  const meters = [...new Set((song.meters ?? []).map((one) => one.meter))];
  const accents = click.accents ?? {};
  const keep = useCommand(async () => {
    await taken(api.POST('/api/songs/accents', { body: { accents } }));
    tell({ kind: 'info', text: 'New songs will use these accents.' });
  });
  const stems = Object.fromEntries(song.stems.map((stem) => [String(stem.id), `from ${stem.name}`]));
  return (
    <div className={styles.row}>
      <Pick
        label="Click"
        value={click.on === false ? 'off' : 'on'}
        among={['on', 'off']}
        onPick={(value) => put({ on: value === 'on' })}
      />
      <Pick
        label="Source"
        value={String(click.stem ?? 'computed')}
        among={['computed', ...Object.keys(stems)]}
        words={{ computed: 'from the tempos', ...stems }}
        onPick={(value) => put({ stem: value === 'computed' ? null : Number(value) })}
      />
      {(click.stem ?? null) === null && (
        <>
          <Pick
            label="Sound"
            value={click.sound ?? 'wood'}
            among={['wood', 'pin', 'shell', 'reed']}
            onPick={(value) => put({ sound: value as 'wood' })}
          />
          <Pick
            label="Subdivision"
            value={click.subdivision ?? 'beats'}
            among={['beats', 'quarters', 'eighths', 'triplets', 'sixteenths']}
            onPick={(value) => put({ subdivision: value as 'beats' })}
          />
          {meters.map((meter) => (
            <Text
              key={meter}
              label={`Accents in ${meter} (beats)`}
              value={(accents[meter] ?? [1]).join(', ')}
              onKeep={(text) => put({ accents: { ...accents, [meter]: beats(text) } })}
            />
          ))}
          {Object.keys(accents).length > 0 && (
            <Button size="small" onClick={() => keep.mutate(undefined)}>
              Keep accents for new songs
            </Button>
          )}
          <Pick
            label="Count-in (bars)"
            value={String(click.count_in ?? 1)}
            among={['0', '1', '2', '4']}
            onPick={(value) => put({ count_in: Number(value) })}
          />
        </>
      )}
      <Text
        label="Click level (dB)"
        value={String(click.level_db ?? -12)}
        onKeep={(text) => put({ level_db: Number(text.replace('−', '-')) })}
      />
    </div>
  );
}
