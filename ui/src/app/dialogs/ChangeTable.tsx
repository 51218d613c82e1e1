import type { ReactNode } from 'react';
import type { ChangeInWords } from '../../api/client';
import { cx } from '../../look/cx';
import styles from '../../look/look.module.css';

interface TableProps {
  changes: ChangeInWords[];
  /** Words over the two values. */
  heads: [string, string];
  /** A cell before each row, such as a box to tick. */
  lead?: (change: ChangeInWords) => ReactNode;
}

/** Settings in words, each with the value it has and the value it gets. */
export function ChangeTable({ changes, heads, lead }: TableProps) {
  return (
    // It may be longer than its room, and is gone through by keyboard then.
    <div className={styles.changes} tabIndex={0} role="group" aria-label="Changes">
      <table>
        <thead>
          <tr>
            {lead && <th aria-label="Take" />}
            <th>What</th>
            <th>Setting</th>
            <th>{heads[0]}</th>
            <th>{heads[1]}</th>
          </tr>
        </thead>
        <tbody>
          {changes.map((change) => (
            <tr key={change.path}>
              {lead && <td>{lead(change)}</td>}
              <td>{change.what}</td>
              <td className={styles.quiet}>{change.field}</td>
              <td className={styles.figure}>{change.from}</td>
              <td className={cx(styles.figure, styles.strong)}>{change.to}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
