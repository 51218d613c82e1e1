import { cx } from '../../look/cx';
import styles from '../../look/look.module.css';

// Lines of one kind that are told; the table below has everything.
const MOST = 7;

/** What comes of a change, line by line, and what sort of word it is. */
export function Notes({
  title,
  kind,
  lines,
}: {
  title: string;
  kind: 'stop' | 'look' | 'well';
  lines: string[];
}) {
  if (lines.length === 0) return null;
  return (
    <section className={cx(styles.note, styles[kind])}>
      <h3>{title}</h3>
      <ul>
        {lines.slice(0, MOST).map((line) => (
          <li key={line}>{line}</li>
        ))}
        {lines.length > MOST && <li>and {lines.length - MOST} more</li>}
      </ul>
    </section>
  );
}
