import Button from '@mui/material/Button';
import { useCallback, useState } from 'react';
import { useLiveState } from '../../api/live';
import { flip } from '../../api/edits';
import { useShow, useTakes } from '../../api/queries';
import { count } from '../../look/format';
import { ofOther, remember, remembered } from './choice';
import { SafePanel } from './SafePanel';
import { ShuttleBoard } from './ShuttleBoard';
import { TakePlayer } from './TakePlayer';
import { Away } from '../../app/status/Away';
import styles from '../../look/look.module.css';
import own from './soundcheck.module.css';

/** The shuttle board: every channel slides between the stage and the take that is chosen below. */
export default function SoundcheckPlace() {
  const show = useShow().data;
  const state = useLiveState();
  const takes = useTakes().data;
  const [, chosenAnew] = useState(0);
  const open = show?.id;
  const chooseTake = useCallback(
    (take: string) => {
      if (open === undefined) return;
      remember(open, take);
      chosenAnew((times) => times + 1);
    },
    [open],
  );
  if (!show) return null;
  const take = remembered(show.id);
  // As the desk says it, whatever this show has.
  const heard = state ? new Set(state.positions.channels) : null;
  const channels = show.channels
    .filter((channel) => channel.name || channel.stage || channel.take)
    .map((channel) =>
      heard
        ? { ...channel, position: heard.has(channel.number) ? ('take' as const) : ('stage' as const) }
        : channel,
    );
  // On a desk that patches in blocks many have a source that nobody uses.
  const used = channels.filter((channel) => channel.name && channel.position === 'stage');
  const onTake = channels.filter((channel) => channel.position === 'take');
  const chosen = takes?.find((one) => one.id === take);
  const number = chosen?.number;
  // Numbers of its tracks mean something in its own show alone.
  const ours = chosen && !ofOther(chosen, show) ? chosen : null;
  const able = channels.filter((channel) => channel.take);
  return (
    <>
      <main className={own.board}>
        <Away of={['desk', 'recorder']} />
        <div className={styles.tools}>
          {ours && (
            <Button variant="contained" onClick={() => void flip('take', { take: ours.id })}>
              Flip the channels of take {ours.number}
            </Button>
          )}
          <Button
            variant={ours ? 'outlined' : 'contained'}
            disabled={able.length === 0 || able.every((one) => one.position === 'take')}
            onClick={() => void flip('take')}
          >
            Flip all to take
          </Button>
          <Button variant="outlined" disabled={onTake.length === 0} onClick={() => void flip('stage')}>
            Flip all to stage
          </Button>
          <span className={styles.hint}>
            Click a shuttle, or use <kbd>←</kbd> <kbd>→</kbd> to flip one channel
          </span>
        </div>
        <div className={own.boardHeads}>
          <div>
            <h2>Stage</h2>
            <span className={styles.quiet}>{count(used.length, 'channel')} on stage</span>
          </div>
          <div className={own.takeHead}>
            <h2>Take {state?.recorder.take_playback?.number ?? number ?? ''}</h2>
            <span className={styles.quiet}>{count(onTake.length, 'channel')} on take</span>
          </div>
        </div>
        <ShuttleBoard show={show} channels={channels} />
        <TakePlayer show={show} take={take} onTake={chooseTake} />
      </main>
      <SafePanel show={show} onTake={state?.positions.take ?? onTake.length} />
    </>
  );
}
