import { cx } from '../../look/cx';
import styles from '../../look/look.module.css';

/** Lists the files that an import leaves out, each with the reason; nothing if there are none. */
export function LeftOut({ problems }: { problems: { where: string; message: string }[] }) {
  if (problems.length === 0) return null;
  return (
    <section className={cx(styles.note, styles.look)}>
      <h3>Left out</h3>
      <ul>
        {problems.map((one) => (
          <li key={one.where}>
            {one.where} {one.message}
          </li>
        ))}
      </ul>
    </section>
  );
}
