import type { Show } from '../../api/client';
import { count } from '../../look/format';
import styles from '../../look/look.module.css';
import own from './handover.module.css';

/** What can be printed or saved, and what it holds. */
export function Papers({ show }: { show: Show }) {
  const named = show.channels.filter((one) => one.name !== '').length;
  const papers = [
    {
      href: '/api/papers/sheet.pdf',
      name: 'Patch sheet',
      kind: 'PDF',
      words:
        'Stage boxes by socket, the desk by channel, outputs, the recorder by track. For the stage and for the next engineer.',
    },
    {
      href: '/api/papers/inputs.csv',
      name: 'Input list',
      kind: 'CSV',
      words: `${count(named, 'source')} with socket, microphone, stand and gain. Opens in any spreadsheet; import it again with Patch, Input list.`,
    },
    {
      href: '/api/papers/hears.pdf',
      name: 'Who hears what',
      kind: 'PDF',
      words:
        'Every source for every listener in dB, with the current mix and unmet requirements. For the monitor engineer, and for the next one.',
    },
    {
      href: '/api/papers/hears.csv',
      name: 'Who hears what, as a list',
      kind: 'CSV',
      words: 'One row per source and listener: level, delay, number of paths, requirement met or not.',
    },
    {
      href: '/api/papers/show.json',
      name: 'Whole show',
      kind: 'JSON',
      words: 'Every setting, with the device profiles it uses. Opens on another computer as a new show.',
    },
  ];
  return (
    <ul className={own.papers}>
      {papers.map((paper) => (
        <li key={paper.href}>
          <h2>{paper.name}</h2>
          <p className={styles.quiet}>{paper.words}</p>
          <a className={own.save} href={paper.href} download>
            Save as {paper.kind}
          </a>
        </li>
      ))}
    </ul>
  );
}
