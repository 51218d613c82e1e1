import Button from '@mui/material/Button';
import { type KeyboardEvent, useState } from 'react';
import type { Playback, PlaybackItem, Show } from '../../../api/client';
import { set } from '../../../api/edits';
import { useLivePlayer } from '../../../api/live';
import { cx } from '../../../look/cx';
import { count } from '../../../look/format';
import styles from '../../../look/look.module.css';
import { AddSongDialog } from './AddSongDialog';
import { endsAt, followsWords, length, press, tonightWords } from '../player';
import own from '../playback.module.css';

interface OrderProps {
  playback: Playback;
  show: Show;
  chosen: number | null;
  onChoose: (key: number) => void;
}

/** The running order: songs, pauses and talk, moved by keys, buttons or dragging. */
export function Order({ playback, show, chosen, onChoose }: OrderProps) {
  const [adding, add] = useState(false);
  const player = useLivePlayer();
  const keys = playback.items.map((one) => one.key);
  const left = playback.items.filter((one) => !one.played).reduce((sum, one) => sum + one.seconds, 0);
  const newKey = Math.max(0, ...keys) + 1;

  const move = (key: number, by: number) => {
    const at = keys.indexOf(key);
    const to = at + by;
    if (to < 0 || to >= keys.length) return;
    const order = keys.filter((one) => one !== key);
    order.splice(to, 0, key);
    void set({ 'setlist/order': order });
  };
  const remove = (key: number) => void set({ 'setlist/order': keys.filter((one) => one !== key) });
  const put = (kind: 'pause' | 'talk') =>
    void set({
      'setlist/order': [...keys, newKey],
      [`setlist/${newKey}/kind`]: kind,
      [`setlist/${newKey}/title`]: kind === 'pause' ? 'Pause' : 'Talk',
      [`setlist/${newKey}/minutes`]: kind === 'pause' ? 15 : 2,
    });

  const onKey = (event: KeyboardEvent<HTMLElement>, item: PlaybackItem) => {
    const by = { ArrowUp: -1, ArrowDown: 1 }[event.key];
    if (by && event.altKey) move(item.key, by);
    else if (by) {
      const next = playback.items[playback.items.indexOf(item) + by];
      if (next) {
        onChoose(next.key);
        event.currentTarget.parentElement?.querySelector<HTMLElement>(`[data-key='${next.key}']`)?.focus();
      }
    } else if (event.key === 'Delete') remove(item.key);
    else return;
    event.preventDefault();
  };
  return (
    <section className={own.order} aria-label="Running order">
      <h2>Running order</h2>
      <p className={styles.quiet}>
        {count(playback.items.length, 'entry').replace('entrys', 'entries')} · {length(playback.seconds)} ·{' '}
        {playback.hands > 0 ? `${playback.hands} manual starts · ` : ''}ends {endsAt(left)} if played through
        now
      </p>
      <div className={own.cards}>
        {playback.items.map((item, at) => (
          <button
            key={item.key}
            type="button"
            data-key={item.key}
            data-dye={item.dye}
            className={cx(
              own.card,
              item.key === chosen && own.chosen,
              item.key === player?.item && own.on,
              item.played && own.played,
            )}
            aria-current={item.key === chosen ? 'true' : undefined}
            onClick={() => onChoose(item.key)}
            onKeyDown={(event) => onKey(event, item)}
            draggable
            onDragStart={(event) => {
              event.dataTransfer.setData('text/plain', String(item.key));
              event.dataTransfer.effectAllowed = 'move';
            }}
            onDragOver={(event) => event.preventDefault()}
            onDrop={(event) => {
              event.preventDefault();
              const dragged = Number(event.dataTransfer.getData('text/plain'));
              if (keys.includes(dragged)) move(dragged, at - keys.indexOf(dragged));
            }}
          >
            <strong>
              {at + 1} {item.title}
            </strong>
            <span className={cx(styles.quiet, styles.figure)}>
              {length(item.seconds)}
              {item.kind === 'song' && item.bpm && ` · ${item.bpm}`}
              {tonightWords(item)}
              {item.kind === 'song' && item.meter !== '4/4' && item.meter && ` · ${item.meter}`}
              {item.kind === 'song' &&
                ` · ${item.played ? 'played' : followsWords(item.follows, item.pause)}`}
            </span>
            {item.problem && <span className={styles.inLook}>{item.problem}</span>}
          </button>
        ))}
      </div>
      <div className={styles.row}>
        <Button variant="outlined" size="small" onClick={() => add(true)}>
          Add a song…
        </Button>
        <Button size="small" onClick={() => put('pause')}>
          Add pause
        </Button>
        <Button size="small" onClick={() => put('talk')}>
          Add talk
        </Button>
        <a href="/api/papers/order.pdf" download>
          Print
        </a>
      </div>
      {chosen !== null && (
        <div className={styles.row}>
          <Button size="small" onClick={() => move(chosen, -1)} disabled={keys[0] === chosen}>
            Move up
          </Button>
          <Button size="small" onClick={() => move(chosen, 1)} disabled={keys.at(-1) === chosen}>
            Move down
          </Button>
          <Button
            size="small"
            onClick={() => remove(chosen)}
            disabled={player?.item === chosen && player.state === 'playing'}
          >
            Remove
          </Button>
          <Button
            size="small"
            disabled={
              player?.item === chosen || playback.items.find((one) => one.key === chosen)?.kind !== 'song'
            }
            onClick={() => void press({ command: 'load', item: chosen })}
          >
            Load
          </Button>
        </div>
      )}
      <p className={styles.hint}>
        <kbd>↑</kbd> <kbd>↓</kbd> choose · <kbd>Alt</kbd>+<kbd>↑</kbd> <kbd>↓</kbd> move · <kbd>Delete</kbd>{' '}
        removes
      </p>
      <AddSongDialog open={adding} show={show} onClose={() => add(false)} />
    </section>
  );
}
