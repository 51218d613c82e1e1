import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useEffect, useRef, useState } from 'react';
import { api, taken } from '../../api/client';
import { useLive } from '../../api/live';
import { refreshTakes, useCommand } from '../../api/queries';
import { clock, count, span } from '../../look/format';
import { eachFrame } from '../../meters/clock';
import { progress } from '../../meters/levels';

/** Starts and ends a capture; shows its time, and how long the disk lasts. */
export function Transport({ armed }: { armed: number }) {
  const { state } = useLive();
  const [name, setName] = useState('');
  const running = state?.recorder.capture ?? null;
  const start = useCommand(() => taken(api.POST('/api/capture', { body: { name } })));
  const stop = useCommand(async () => {
    await taken(api.POST('/api/capture/stop', { body: {} }));
    setName('');
    refreshTakes();
  });
  const left = state?.disk.seconds ?? null;
  return (
    <section className={`transport ${running ? 'running' : ''}`} aria-label="Transport">
      <CaptureTime rate={state?.rate ?? 48000} running={running !== null} />
      {running ? (
        <Button
          variant="contained"
          color="error"
          size="large"
          disabled={stop.isPending}
          onClick={() => stop.mutate(undefined)}
        >
          Stop
        </Button>
      ) : (
        <Button
          variant="contained"
          color="error"
          size="large"
          disabled={armed === 0 || start.isPending || !state?.recorder.up}
          onClick={() => start.mutate(undefined)}
        >
          Capture
        </Button>
      )}
      <div className="transport-words">
        <strong>
          {running
            ? `Capturing take ${running.number} ${running.name}`
            : armed > 0
              ? `Ready, ${count(armed, 'track')} armed`
              : 'Arm a track to capture'}
        </strong>
        <span className="quiet figure">
          {left === null ? 'Disk time left is told once a track is armed' : `${span(left)} of disk left`}
        </span>
      </div>
      {!running && (
        <TextField
          label="Name of the take"
          size="small"
          style={{ marginLeft: 'auto', width: 210 }}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
      )}
    </section>
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
  return <div className="transport-time figure" ref={span} role="timer" aria-label="Time captured" />;
}
