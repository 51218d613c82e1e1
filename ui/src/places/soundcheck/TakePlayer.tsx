import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import Switch from '@mui/material/Switch';
import { useEffect, useState } from 'react';
import { api, type Show, type Take, taken } from '../../api/client';
import { useLiveState } from '../../api/live';
import { useCommand } from '../../api/edits';
import { useTakes, useWaveform } from '../../api/queries';
import { clock } from '../../look/format';
import { ByNameDialog } from './ByNameDialog';
import { ofOther, playable, usual } from './choice';
import { type Range, TakeStrip } from './TakeStrip';
import { QueryState } from '../../app/status/QueryState';
import { cx } from '../../look/cx';
import styles from '../../look/look.module.css';
import own from './soundcheck.module.css';

interface PlayerProps {
  show: Show;
  take: string | null;
  onTake: (take: string) => void;
}

/** Chooses a take, a range of it, and sends it into the desk. Space plays and stops, L loops. What comes later changes no choice. */
export function TakePlayer({ show, take, onTake }: PlayerProps) {
  const asked = useTakes();
  const takes = playable(asked.data ?? []);
  const playing = useLiveState()?.recorder.take_playback ?? null;
  const known = (id: string | null | undefined) => takes.find((one) => one.id === id);
  const chosen = known(playing?.take) ?? known(take) ?? usual(takes, show);
  const settled = chosen?.id ?? null;
  useEffect(() => {
    if (settled !== null && settled !== take) onTake(settled);
  }, [settled, take, onTake]);
  if (!chosen)
    return (
      <section className={own.player} aria-label="Take">
        <QueryState of={asked} waiting="Reading the takes …">
          {() => (
            <>
              No takes to play yet. <a href="#/capture">Capture one</a> first.
            </>
          )}
        </QueryState>
      </section>
    );
  return <ChosenTake key={chosen.id} show={show} take={chosen} takes={takes} onTake={onTake} />;
}

interface ChosenProps {
  show: Show;
  take: Take;
  takes: Take[];
  onTake: (take: string) => void;
}

function ChosenTake({ show, take, takes, onTake }: ChosenProps) {
  const playing = useLiveState()?.recorder.take_playback ?? null;
  const overview = useWaveform(take, 600).data;
  const [range, setRange] = useState<Range | null>(null);
  const [loop, setLoop] = useState(playing?.loop ?? false);
  const shown =
    range ??
    (playing && (playing.from > 0 || playing.to < take.frames)
      ? { from: playing.from, to: playing.to }
      : null);

  const other = ofOther(take, show);
  const [asking, ask] = useState(false);
  const play = useCommand(({ loop, range }: { loop: boolean; range: Range | null }) =>
    taken(
      api.POST('/api/take-playback', {
        body: { take: take.id, from: range?.from ?? 0, to: range?.to ?? null, loop, by_name: other },
      }),
    ),
  );
  const stop = useCommand(() => taken(api.POST('/api/take-playback/stop', { body: {} })));
  const toggle = () => {
    if (playing) stop.mutate(undefined);
    else if (other) ask(true);
    else play.mutate({ loop, range: shown });
  };
  const turnLoop = (next: boolean) => {
    setLoop(next);
    if (playing) play.mutate({ loop: next, range: shown });
  };

  const keepRange = (next: Range) => {
    setRange(next);
    if (playing) play.mutate({ loop, range: next });
  };

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const control = event.target instanceof HTMLElement && event.target.closest('button, input, select, a');
      if (control || event.ctrlKey || event.metaKey) return;
      if (event.key === ' ') toggle();
      else if (event.key.toLowerCase() === 'l') turnLoop(!loop);
      else return;
      event.preventDefault();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  });

  return (
    <section className={own.player} aria-label="Take">
      <div className={own.playerHead}>
        <select
          className={cx(styles.find, own.pick, styles.strong)}
          aria-label="Take to play"
          value={take.id}
          disabled={playing !== null}
          onChange={(event) => onTake(event.target.value)}
        >
          {takes.map((one) => (
            <option key={one.id} value={one.id}>
              Take {one.number} {one.name}
              {ofOther(one, show) && `, of ${one.project}`}
            </option>
          ))}
        </select>
        {other && <span className={styles.inLook}>Of another show: {take.project}</span>}
        <Button variant="contained" onClick={toggle} disabled={play.isPending || stop.isPending}>
          {playing ? 'Stop' : 'Play'}
        </Button>
        <FormControlLabel
          label="Loop"
          control={<Switch checked={loop} onChange={(_, next) => turnLoop(next)} />}
        />
        <span className={cx(styles.quiet, styles.figure)}>
          {shown
            ? `${clock(shown.from / take.rate)} to ${clock(shown.to / take.rate)}`
            : `whole take, ${clock(take.frames / take.rate)}`}
        </span>
        {shown && (
          <Button size="small" onClick={() => keepRange({ from: 0, to: take.frames })}>
            Whole take
          </Button>
        )}
        {(playing?.limited ?? 0) > 0 && (
          <span className={styles.inLook}>Overload: the sum on a return was limited at full scale.</span>
        )}
        <span className={cx(styles.hint, styles.end)}>
          drag to choose a range · <kbd>Space</kbd> play · <kbd>L</kbd> loop
        </span>
      </div>
      {asking && (
        <ByNameDialog
          take={take}
          onClose={() => ask(false)}
          onPlay={() => {
            ask(false);
            play.mutate({ loop, range: shown });
          }}
        />
      )}
      <TakeStrip
        frames={take.frames}
        peaks={overview?.peaks ?? []}
        range={shown}
        playing={playing !== null}
        onRange={setRange}
        onRangeDone={keepRange}
        label={`Take ${take.number}, ${clock(take.frames / take.rate)} long`}
      />
    </section>
  );
}
