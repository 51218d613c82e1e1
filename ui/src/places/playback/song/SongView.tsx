import Button from '@mui/material/Button';
import { useState } from 'react';
import type { Playback, PlaybackItem, Song } from '../../../api/client';
import { useLivePlayer } from '../../../api/live';
import { useSong } from '../../../api/queries';
import { QueryState } from '../../../app/status/QueryState';
import { StateNote } from '../../../app/status/StateNote';
import styles from '../../../look/look.module.css';
import { Cloth } from './Cloth';
import { SongDialog } from './SongDialog';
import { Tonight } from '../order/Tonight';
import { Transport } from '../Transport';
import own from '../playback.module.css';

/** A song: its sections across, its stems as threads that end at their outputs. */
export function SongView({ item, playback }: { item: PlaybackItem; playback: Playback }) {
  const song = useSong(item.song, item);
  if (item.kind !== 'song')
    return (
      <StateNote kind="empty">
        {item.title}, {Math.round(item.seconds / 60)} min. Nothing plays.
      </StateNote>
    );
  if (!item.song) return <StateNote kind="empty">This entry has no song.</StateNote>;
  return (
    <QueryState of={song} waiting="Reading the song …">
      {(data) => <Whole song={data} item={item} playback={playback} />}
    </QueryState>
  );
}

function Whole({ song, item, playback }: { song: Song; item: PlaybackItem; playback: Playback }) {
  const player = useLivePlayer();
  const [editing, edit] = useState(false);
  const on = player?.item === item.key && player.song === song.id;
  return (
    <section className={own.song} aria-label={song.name}>
      <Transport song={song} item={item} on={on} />
      <Cloth song={song} item={item} playback={playback} on={on} />
      {(player?.troubles?.length ?? 0) > 0 && on && (
        <StateNote kind="away">{player?.troubles?.join(' ')} The song goes on without.</StateNote>
      )}
      {song.warnings.map((warning) => (
        <p key={warning} className={styles.inLook}>
          {warning}
        </p>
      ))}
      <div className={styles.row}>
        <Button variant="outlined" size="small" onClick={() => edit(true)}>
          Song…
        </Button>
        <Tonight song={song} item={item} />
        {song.crew && <span className={styles.strong}>{song.crew}</span>}
      </div>
      <SongDialog open={editing} id={song.id} onClose={() => edit(false)} />
    </section>
  );
}
