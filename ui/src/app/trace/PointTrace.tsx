import Button from '@mui/material/Button';
import { useState } from 'react';
import type { Hop, Show } from '../../api/client';
import { usePointTrace } from '../../api/queries';
import { HopList } from './HopList';
import { QueryState } from '../status/QueryState';
import { StateNote } from '../status/StateNote';

/** Every way through a point, one after the other. */
export function PointTrace({ point, show, empty }: { point: string; show: Show; empty: string }) {
  return (
    <QueryState of={usePointTrace(point, show.version)} waiting="Tracing …">
      {({ ways }) => <Ways ways={ways} show={show} empty={empty} />}
    </QueryState>
  );
}

function Ways({ ways, show, empty }: { ways: Hop[][]; show: Show; empty: string }) {
  const [at, go] = useState(0);
  const hops = ways[Math.min(at, ways.length - 1)];
  if (!hops) return <StateNote kind="empty">{empty}</StateNote>;
  return (
    <>
      {ways.length > 1 && (
        <Button size="small" onClick={() => go((at + 1) % ways.length)}>
          {at + 1} of {ways.length} ways, next
        </Button>
      )}
      <HopList hops={hops} show={show} onStage dye="indigo" />
    </>
  );
}
