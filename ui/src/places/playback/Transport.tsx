import Button from '@mui/material/Button';
import { useEffect, useRef, useState } from 'react';
import type { PlaybackItem, Song } from '../../api/client';
import { useLivePlayer } from '../../api/live';
import { tell } from '../../api/notices';
import { HoldButton } from '../../app/controls/HoldButton';
import { cx } from '../../look/cx';
import styles from '../../look/look.module.css';
import { eachFrame } from '../../meters/clock';
import { playing } from '../../meters/song';
import { length, press } from './player';
import own from './playback.module.css';

interface TransportProps {
  song: Song;
  item: PlaybackItem;
  /** Whether this is the song that is on. */
  on: boolean;
}

const GOING = ['playing', 'fading', 'stopping'];

/** Bar and beat, to be read from three metres, and what can be pressed. */
export function Transport({ song, item, on }: TransportProps) {
  const player = useLivePlayer();
  const [locked, lock] = useState(false);
  const going = on && GOING.includes(player?.state ?? '');
  const other = !on && GOING.includes(player?.state ?? '');
  const away = player === null || !player.clock;
  const go = async () => {
    if (on || (await press({ command: 'load', item: item.key }))) await press({ command: 'play' });
  };
  return (
    <>
      <div className={own.transport}>
        <Place song={song} on={on} />
        <span className={styles.room} />
        {going && (
          <>
            <Button
              variant="outlined"
              disabled={locked}
              onClick={() => void press({ command: 'around', on: !player?.around })}
            >
              {player?.around ? 'Leave the loop at section end' : 'Repeat section'}
            </Button>
            <HoldButton
              variant="contained"
              size="large"
              onHeld={() => void press({ command: 'stop' })}
              onShort={() => tell({ kind: 'info', text: 'Hold for 1 s to stop the song.' })}
            >
              Hold to stop
            </HoldButton>
          </>
        )}
        {on && player?.state === 'pausing' && (
          <Button variant="outlined" onClick={() => void press({ command: 'take.back' })}>
            Wait: do not start {player.next ?? 'the next song'}
          </Button>
        )}
        {!going && (
          <Button
            variant="contained"
            size="large"
            disabled={locked || away || other || item.problem?.includes('no such song') === true}
            onClick={() => void go()}
          >
            {on && player?.state === 'stopped' ? 'Resume' : 'Play'}
          </Button>
        )}
      </div>
      <div className={own.more}>
        <button
          type="button"
          className={cx(styles.chip, locked && styles.on)}
          aria-pressed={locked}
          onClick={() => lock(!locked)}
          title="Locks everything except Hold to stop"
        >
          {locked ? 'Locked' : 'Lock'}
        </button>
        {going && (
          <>
            <Button
              size="small"
              disabled={locked}
              onClick={() => void press({ command: 'stop.at', at_next: 'section' })}
            >
              Stop at section end
            </Button>
            <Button
              size="small"
              disabled={locked}
              onClick={() => void press({ command: 'fade', seconds: 6 })}
            >
              Fade out in 6 s
            </Button>
          </>
        )}
        <Button
          size="small"
          color="error"
          disabled={locked}
          onClick={() => void press({ command: 'panic' })}
          title="Silences all playback at once"
        >
          Mute all
        </Button>
        {player?.limited && player.limited.length > 0 && (
          <span className={styles.inLook}>
            Too loud, limited at full scale: output {player.limited.map((one) => one.output).join(', ')}
          </span>
        )}
      </div>
    </>
  );
}

/** Where it is; written past React while it plays. */
function Place({ song, on }: { song: Song; on: boolean }) {
  const player = useLivePlayer();
  const bar = useRef<HTMLSpanElement>(null);
  const time = useRef<HTMLSpanElement>(null);
  const held = on ? player : null;
  useEffect(
    () =>
      eachFrame(() => {
        const now = on ? playing() : null;
        const place = now ?? held;
        const text = place?.bar === undefined ? '–' : `${place.bar}.${place.beat ?? 1}`;
        const seconds = Math.max(0, (place?.position ?? 0) / song.rate);
        const clock = `${Math.floor(seconds / 60)}:${(seconds % 60).toFixed(1).padStart(4, '0')}`;
        if (bar.current && bar.current.textContent !== text) bar.current.textContent = text;
        if (time.current && time.current.textContent !== clock) time.current.textContent = clock;
      }),
    [on, held, song.rate],
  );
  return (
    <>
      <span className={cx(own.bar, styles.figure)} ref={bar} />
      <span className={styles.quiet}>bar and beat</span>
      <span className={cx(own.time, styles.figure)} ref={time} />
      <span className={cx(styles.quiet, styles.figure)}>of {length(song.frames / song.rate)}</span>
    </>
  );
}
