import type { Fault } from '../../api/client';
import { cx } from '../../look/cx';
import styles from '../../look/look.module.css';

/** All faults of a refused file, with their positions. */
export function Faults({ faults }: { faults: Fault[] }) {
  if (faults.length === 0) return null;
  return (
    <section className={cx(styles.note, styles.stop)} role="alert">
      <h3>It was refused whole; nothing was kept</h3>
      <ul>
        {faults.map((fault) => (
          <li key={`${fault.where}${fault.message}`}>
            <code>{fault.where}</code> {fault.message}
          </li>
        ))}
      </ul>
    </section>
  );
}
