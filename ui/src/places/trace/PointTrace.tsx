import Button from '@mui/material/Button';
import { useState } from 'react';
import type { Show } from '../../api/client';
import { usePointTrace } from '../../api/queries';
import { HopList } from './HopList';
import styles from '../../look/look.module.css';

/** Every way through a point, one after the other. */
export function PointTrace({ point, show, empty }: { point: string; show: Show; empty: string }) {
  const ways = usePointTrace(point, show.version).data?.ways;
  const [at, go] = useState(0);
  if (!ways) return null;
  const hops = ways[Math.min(at, ways.length - 1)];
  if (!hops) return <p className={styles.empty}>{empty}</p>;
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
