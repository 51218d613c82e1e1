import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useEffect, useRef, useState } from 'react';
import { api, taken, type Track } from '../../api/client';
import { useCommand } from '../../api/edits';
import { useLiveState } from '../../api/live';
import { tell } from '../../api/notices';
import { refreshTakes, useTakes } from '../../api/queries';
import { HoldButton } from '../../app/controls/HoldButton';
import { clock, count, span } from '../../look/format';
import { eachFrame } from '../../meters/clock';
import { progress } from '../../meters/levels';
import { cx } from '../../look/cx';
import styles from '../../look/look.module.css';
import own from './capture.module.css';

/** Starts and ends a capture; shows its time and the recording time left. */
export function Transport({ armed }: { armed: Track[] }) {
  const state = useLiveState();
  const running = state?.recorder.capture ?? null;
  const left = running?.disk_seconds ?? state?.disk.seconds ?? null;
  const warning = running ? running.warning : state?.recorder.mirror_problem;
  const words = running
    ? `Capturing take ${running.number} ${running.name}`
    : armed.length > 0
      ? `Ready, ${count(armed.length, 'track')} armed`
      : 'Arm a track to capture';
  return (
    <section className={cx(own.transport, running && own.running)} aria-label="Transport">
      <CaptureTime rate={state?.rate ?? 48000} running={running !== null} />
      {running ? <StopButton /> : <Start armed={armed} />}
      <div className={own.transportWords}>
        <strong>{words}</strong>
        <span className={cx(warning ? styles.inLook : styles.quiet, styles.figure)}>
          {warning ??
            (left !== null
              ? `${span(left)} of disk left`
              : running || armed.length > 0
                ? 'Free disk space unknown'
                : 'Arm a track to see the recording time left')}
        </span>
      </div>
    </section>
  );
}

/** The button that starts: from now or from a while ago, under a name, alone or along with a take whose other tracks play. */
function Start({ armed }: { armed: Track[] }) {
  const state = useLiveState();
  const [name, setName] = useState('');
  const [back, setBack] = useState(0);
  const [along, setAlong] = useState('');
  const takes =
    useTakes()
      .data?.filter((take) => take.state !== 'capturing')
      .slice(0, 20) ?? [];
  const start = useCommand(async () => {
    if (along === '') await taken(api.POST('/api/capture', { body: { name, back } }));
    else
      await taken(
        api.POST('/api/capture/over', {
          body: { take: along, name, tracks: armed.map((one) => one.number) },
        }),
      );
    setName('');
    setBack(0);
  });
  const held = Math.floor(state?.recorder.look_back?.seconds ?? 0);
  const choices = [10, 30, 60].filter((seconds) => seconds <= held + 1);
  return (
    <>
      <Button
        variant="contained"
        color="error"
        size="large"
        disabled={armed.length === 0 || start.isPending || !state?.recorder.up}
        onClick={() => start.mutate(undefined)}
      >
        Capture
      </Button>
      <div className={own.transportOptions}>
        <TextField
          label="Take name"
          size="small"
          className={own.newName}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <TextField
          select
          label="Start"
          size="small"
          className={own.since}
          disabled={along !== ''}
          value={back}
          onChange={(event) => setBack(Number(event.target.value))}
        >
          <MenuItem value={0}>now</MenuItem>
          {choices.map((seconds) => (
            <MenuItem key={seconds} value={seconds}>
              {seconds} s ago
            </MenuItem>
          ))}
        </TextField>
        {takes.length > 0 && (
          <TextField
            select
            label="Overdub to"
            size="small"
            className={own.along}
            value={along}
            onChange={(event) => setAlong(event.target.value)}
          >
            <MenuItem value="">nothing</MenuItem>
            {takes.map((take) => (
              <MenuItem key={take.id} value={take.id}>
                {take.number} {take.name}
              </MenuItem>
            ))}
          </TextField>
        )}
      </div>
    </>
  );
}

/** Ends the take only when it is held: nothing else does. */
function StopButton() {
  const stop = useCommand(async () => {
    await taken(api.POST('/api/capture/stop', { body: {} }));
    refreshTakes();
  });
  return (
    <HoldButton
      variant="contained"
      color="error"
      size="large"
      disabled={stop.isPending}
      onHeld={() => stop.mutate(undefined)}
      onShort={() => tell({ kind: 'info', text: 'Hold Stop for a second to end the take.' })}
    >
      Hold to stop
    </HoldButton>
  );
}

/** The take's length so far, from the recorder's sample counter, written past React. */
function CaptureTime({ rate, running }: { rate: number; running: boolean }) {
  const span = useRef<HTMLDivElement>(null);
  useEffect(
    () =>
      eachFrame(() => {
        const text = clock((running ? (progress.capture ?? 0) : 0) / rate);
        if (span.current && span.current.textContent !== text) span.current.textContent = text;
      }),
    [rate, running],
  );
  return (
    <div
      className={cx(own.transportTime, styles.figure)}
      ref={span}
      role="timer"
      aria-label="Time captured"
    />
  );
}
