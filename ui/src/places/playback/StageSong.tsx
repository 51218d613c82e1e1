import { useEffect, useRef } from 'react';
import { useLive } from '../../api/live';
import { usePlayback, useSong } from '../../api/queries';
import { cx } from '../../look/cx';
import styles from '../../look/look.module.css';
import { eachFrame } from '../../meters/clock';
import { playing } from '../../meters/song';
import { length } from './player';
import own from './playback.module.css';

/** For a tablet on stage: what plays, bar and beat, the section and the next one, and how long it still takes. */
export default function StageSong() {
  const { player, connected } = useLive();
  const song = useSong(player?.song).data;
  const items = usePlayback().data?.items ?? [];
  const bar = useRef<HTMLDivElement>(null);
  const left = useRef<HTMLSpanElement>(null);
  useEffect(
    () =>
      eachFrame(() => {
        const now = playing();
        const place = now ?? player;
        const text = place?.bar === undefined ? '–' : `${place.bar}.${place.beat ?? 1}`;
        const rest =
          now?.left === undefined || now.left === null ? '' : length(now.left / (song?.rate ?? 48_000));
        if (bar.current && bar.current.textContent !== text) bar.current.textContent = text;
        if (left.current && left.current.textContent !== rest) left.current.textContent = rest;
      }),
    [player, song?.rate],
  );
  const here = song?.parts.find((part) => part.key === player?.section);
  const after = song?.parts.find((part) => part.key === (player?.asked?.section ?? player?.after));
  const following = items[items.findIndex((one) => one.key === player?.item) + 1];
  return (
    <main className={own.stage}>
      {!connected && <div className={styles.lost}>Connection lost: display out of date.</div>}
      <h1 data-dye={song?.dye ?? 'iron'}>{player?.name ?? 'No song loaded'}</h1>
      <div className={cx(own.huge, styles.figure)} ref={bar} role="timer" aria-label="Bar and beat" />
      <div className={own.here} data-dye={here?.dye ?? 'iron'}>
        <strong>{here?.name ?? ' '}</strong>
        {player?.around && <span> repeating section</span>}
      </div>
      <p className={own.then}>
        {player?.state === 'playing'
          ? after
            ? `then ${after.name}`
            : 'the last section'
          : (player?.state ?? 'away')}
      </p>
      <p className={cx(own.then, styles.figure)}>
        <span ref={left} /> <span className={styles.quiet}>left</span>
      </p>
      <p className={own.then}>
        {following ? `Next song: ${following.title}` : ''} {song?.crew && <em>{song.crew}</em>}
      </p>
    </main>
  );
}
