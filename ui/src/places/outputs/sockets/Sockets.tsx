import Button from '@mui/material/Button';
import { type ReactNode, useState } from 'react';
import type { Outputs, Settings, Show } from '../../../api/client';
import { set } from '../../../api/edits';
import { ChoiceField } from '../../../app/controls/Fields';
import { PointTrace } from '../../../app/trace/PointTrace';
import { cx } from '../../../look/cx';
import styles from '../../../look/look.module.css';
import { BusTable } from './BusTable';
import { OutputSheet } from './OutputSheet';
import own from '../outputs.module.css';

interface SocketsProps {
  head: ReactNode;
  outputs: Outputs;
  show: Show;
  sought: string;
}

const keep = (settings: Settings) => {
  if (Object.keys(settings).length > 0) void set(settings);
};

/** What leaves the desk: outputs, personal mixes, the buses behind them, and which sockets they come out of. */
export function Sockets({ head, outputs, show, sought }: SocketsProps) {
  const [traced, trace] = useState<{ point: string; label: string } | null>(null);
  const [blocks, openBlocks] = useState(sought.startsWith('outlet/'));
  return (
    <>
      <main>
        {head}
        <section aria-label="Outputs">
          <div className={styles.tools}>
            <Button size="small" aria-expanded={blocks} onClick={() => openBlocks(!blocks)}>
              {blocks ? 'Hide blocks' : 'Output blocks…'}
            </Button>
          </div>
          {blocks && (
            <div className={own.blocks}>
              {outputs.outlets.map((outlet) => (
                <ChoiceField
                  key={outlet.number}
                  column="outlet"
                  label={outlet.label}
                  number={outlet.number}
                  version={show.version}
                  onChoose={keep}
                />
              ))}
            </div>
          )}
          <OutputSheet
            outputs={outputs}
            kind="output"
            sought={sought}
            onTrace={(point, label) => trace({ point, label })}
          />
        </section>
        <BusTable outputs={outputs} sought={sought} />
        {outputs.personal.length > 0 && (
          <section aria-label="Personal mixes" className={own.section}>
            <h2>Personal mixes</h2>
            <OutputSheet
              outputs={outputs}
              kind="personal"
              sought={sought}
              onTrace={(point, label) => trace({ point, label })}
            />
          </section>
        )}
      </main>
      {traced && (
        <aside className={cx(styles.side, styles.wide)} aria-label="Trace">
          <h2>{traced.label}</h2>
          <PointTrace point={traced.point} show={show} empty="No outputs here." />
        </aside>
      )}
    </>
  );
}
