import Button from '@mui/material/Button';
import { useState } from 'react';
import type { Rig, Settings } from '../../api/client';
import { set } from '../../api/edits';
import { ChoiceField, TextSetting } from '../patch/Fields';
import { cx } from '../../look/cx';
import styles from '../../look/look.module.css';
import own from './rig.module.css';

interface OutputsProps {
  rig: Rig;
  version: number;
  onTrace: (point: string, label: string) => void;
}

const keep = (settings: Settings) => {
  if (Object.keys(settings).length > 0) void set(settings);
};

/** What comes out where: each output of the desk, what it carries, and the sockets that it reaches. */
export function OutputsTable({ rig, version, onTrace }: OutputsProps) {
  const [open, setOpen] = useState<number | null>(null);
  const [blocks, openBlocks] = useState(false);
  const used = rig.outputs.filter(
    (one) => one.source !== null || one.expected !== null || one.number === open,
  );
  const free = rig.outputs.find((one) => one.source === null && one.expected === null);
  return (
    <section aria-label="What comes out">
      <div className={cx(styles.tools, styles.apart, own.what)}>
        <h2>What comes out</h2>
        {free && (
          <Button size="small" onClick={() => setOpen(free.number)}>
            + output {free.number}
          </Button>
        )}
        <Button
          size="small"
          className={styles.end}
          aria-expanded={blocks}
          onClick={() => openBlocks(!blocks)}
        >
          {blocks ? 'Hide blocks' : 'Which outputs feed which sockets…'}
        </Button>
      </div>
      {blocks && (
        <div className={own.outlets}>
          {rig.outlets.map((outlet) => (
            <ChoiceField
              key={outlet.number}
              column="outlet"
              label={outlet.label}
              number={outlet.number}
              version={version}
              onChoose={keep}
            />
          ))}
        </div>
      )}
      <table className={cx(styles.plain, own.outputs)}>
        <thead>
          <tr>
            <th>Output</th>
            <th>Carries</th>
            <th>Comes out at</th>
            <th>Counted on at</th>
            <th>
              <span className={styles.heard}>Change</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {used.map((output) =>
            output.number === open ? (
              <tr key={output.number}>
                <td className={styles.figure}>{output.number}</td>
                <td>
                  <ChoiceField
                    column="output_source"
                    label="Carries"
                    number={output.number}
                    version={version}
                    autoFocus
                    onChoose={keep}
                  />
                  <BusName output={output} />
                </td>
                <td className={styles.quiet}>
                  {output.sockets.map((one) => one.label).join(', ') || 'nowhere'}
                </td>
                <td>
                  <ChoiceField
                    column="output_expected"
                    label="Counted on at"
                    number={output.number}
                    version={version}
                    onChoose={keep}
                  />
                </td>
                <td>
                  <Button size="small" onClick={() => setOpen(null)}>
                    Done
                  </Button>
                </td>
              </tr>
            ) : (
              <tr key={output.number}>
                <td className={styles.figure}>{output.number}</td>
                <td>{output.label || 'nothing'}</td>
                <td>
                  {output.sockets.length === 0 && <span className={styles.quiet}>nowhere</span>}
                  {output.sockets.map((one) => (
                    <button
                      key={one.point}
                      type="button"
                      className={styles.jump}
                      aria-label={`Trace ${one.label}`}
                      onClick={() => onTrace(one.point, one.label)}
                    >
                      {one.label}
                    </button>
                  ))}
                </td>
                <td className={missed(output) ? styles.inStop : styles.quiet}>{output.expected_label}</td>
                <td>
                  <Button
                    size="small"
                    aria-label={`Change output ${output.number}`}
                    onClick={() => setOpen(output.number)}
                  >
                    Change
                  </Button>
                </td>
              </tr>
            ),
          )}
        </tbody>
      </table>
    </section>
  );
}

/** A bus is named where it comes out. */
function BusName({ output }: { output: Rig['outputs'][number] }) {
  const bus = /^desk\/bus\/(\d+)$/.exec(output.source ?? '')?.[1];
  if (!bus) return null;
  return (
    <div className={own.outletsOf}>
      <TextSetting
        key={bus}
        label={`Name of bus ${bus}`}
        path={`bus/${bus}/name`}
        value={output.label.replace(/^Bus \d+ ?/, '')}
      />
    </div>
  );
}

const missed = (output: Rig['outputs'][number]) =>
  output.expected !== null && !output.sockets.some((one) => one.point === output.expected);
