import { useState } from 'react';
import type { Playback, Show } from '../../api/client';
import { useLivePlayer } from '../../api/live';
import { usePlayback, useShow } from '../../api/queries';
import { ViewTabs } from '../../app/controls/ViewTabs';
import { QueryState } from '../../app/status/QueryState';
import { StateNote } from '../../app/status/StateNote';
import styles from '../../look/look.module.css';
import { LibraryView } from './order/LibraryView';
import { Order } from './order/Order';
import { Roles } from './outputs/Roles';
import { SongView } from './song/SongView';
import own from './playback.module.css';

const VIEWS = [
  { id: 'tonight', name: 'Tonight' },
  { id: 'roles', name: 'Roles and outputs' },
  { id: 'library', name: 'Songs on this computer' },
] as const;
type View = (typeof VIEWS)[number]['id'];

/** Playback to the stage: the running order, the loaded song, and the outputs of its stems. */
export default function PlaybackPlace() {
  const show = useShow().data;
  const playback = usePlayback();
  if (!show) return null;
  return (
    <QueryState of={playback} waiting="Reading the running order …">
      {(data) => <Views show={show} playback={data} />}
    </QueryState>
  );
}

function Views({ show, playback }: { show: Show; playback: Playback }) {
  const [view, turn] = useState<View>('tonight');
  const [chosen, choose] = useState<number | null>(null);
  const player = useLivePlayer();
  const item =
    playback.items.find((one) => one.key === chosen) ??
    playback.items.find((one) => one.key === player?.item) ??
    playback.items[0];
  return (
    <main className={own.place}>
      <div className={styles.tools}>
        <ViewTabs label="Views" views={VIEWS} view={view} onTurn={turn} />
        <a className={styles.quiet} href="#/stage/song">
          Stage view
        </a>
      </div>
      {player === null && (
        <StateNote kind="away">Player offline: no playback to stage. Restarting automatically.</StateNote>
      )}
      {player && !player.clock && (
        <StateNote kind="away">
          {player.by_card
            ? 'No clock from the desk’s card; playback is stopped. Check its cable to this computer.'
            : 'No clock from the playback interface; playback is stopped. Check its cable to this computer.'}
        </StateNote>
      )}
      {view === 'tonight' && (
        <div className={own.tonight}>
          <Order playback={playback} show={show} chosen={item?.key ?? null} onChoose={choose} />
          {item ? (
            <SongView key={item.key} item={item} playback={playback} />
          ) : (
            <StateNote kind="empty">Put a song into the running order; it plays here.</StateNote>
          )}
        </div>
      )}
      {view === 'roles' && <Roles playback={playback} />}
      {view === 'library' && <LibraryView show={show} />}
    </main>
  );
}
