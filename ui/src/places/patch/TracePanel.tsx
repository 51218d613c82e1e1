import Button from '@mui/material/Button';
import { memo, useState } from 'react';
import type { Port, Schemas, Show } from '../../api/client';
import { useStrandTrace } from '../../api/queries';
import { HopList } from '../../app/trace/HopList';
import { PointTrace } from '../../app/trace/PointTrace';
import { useRest } from '../../app/trace/useRest';
import { QueryState } from '../../app/status/QueryState';
import { cx } from '../../look/cx';
import styles from '../../look/look.module.css';

/** The selected strand hop by hop, with gain, delay and live level. */
type StrandTraced = Schemas['Trace'];

export const TracePanel = memo(function TracePanel({
  port: now,
  show,
}: {
  port: Port | undefined;
  show: Show;
}) {
  const port = useRest(now);
  if (!port) return <aside className={styles.side} aria-label="Trace" />;
  return (
    <aside className={styles.side} aria-label="Trace">
      {port.strands.length > 0 ? (
        <Strands key={port.id} strands={port.strands} show={show} />
      ) : (
        <>
          <h2>
            {port.rail} {port.mark}
          </h2>
          {port.missing && <p className={cx(styles.note, styles.look)}>Missing: {port.missing}.</p>}
          <PointTrace
            point={port.id}
            show={show}
            empty="Not patched. Press Enter to patch it, or select a strand to trace it."
          />
        </>
      )}
    </aside>
  );
});

/** Several strands may run through one port: one after the other. */
function Strands({ strands, show }: { strands: string[]; show: Show }) {
  const [at, go] = useState(0);
  const id = strands[Math.min(at, strands.length - 1)];
  return (
    <>
      {strands.length > 1 && (
        <div className={styles.row}>
          <Button size="small" onClick={() => go((at + 1) % strands.length)}>
            {at + 1} of {strands.length} ways, next
          </Button>
        </div>
      )}
      <StrandTrace id={id} show={show} />
    </>
  );
}

function StrandTrace({ id, show }: { id: string | undefined; show: Show }) {
  return (
    <QueryState of={useStrandTrace(id, show.version)} waiting="Tracing …">
      {(trace) => <Traced trace={trace} show={show} />}
    </QueryState>
  );
}

function Traced({ trace, show }: { trace: StrandTraced; show: Show }) {
  const { strand, hops } = trace;
  const last = hops.at(-1);
  return (
    <>
      <h2>{strand.name}</h2>
      <p className={styles.quiet}>
        {strand.channel_number === null
          ? 'from the desk'
          : `channel ${strand.channel_number}, on ${strand.position}`}
      </p>
      <HopList hops={hops} show={show} onStage={strand.position === 'stage'} dye={strand.dye} />
      <p className={cx(styles.quiet, styles.figure)}>
        {last && last.total_delay > 0 && `Total ${last.total_delay_ms.toFixed(1)} ms. `}
        {ending(strand.home.length, trace.comes_home)}
      </p>
    </>
  );
}

function ending(homes: number, comesHome: boolean): string {
  if (comesHome) return 'Returns on its own channel.';
  return homes > 0 ? 'Returns on another channel.' : 'No return to a channel.';
}
