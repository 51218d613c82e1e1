import { useState } from 'react';
import { useShow } from '../../api/queries';
import { Compare } from './Compare';
import { Journal } from './Journal';
import { Papers } from './Papers';
import { Presets } from './Presets';
import { cx } from '../../look/cx';
import styles from '../../look/look.module.css';

const SECTIONS = {
  papers: 'Sheets and files',
  presets: 'Presets',
  compare: 'Compare',
  journal: 'Journal',
} as const;
type Section = keyof typeof SECTIONS;

/** What goes to the next person: sheets and files, saved parts of the patch, what differs, and who changed what. */
export default function HandoverPlace() {
  const show = useShow().data;
  const [section, open] = useState<Section>('papers');
  if (!show) return null;
  return (
    <main>
      <div className={styles.tools} role="tablist" aria-label="Handover">
        {(Object.keys(SECTIONS) as Section[]).map((one) => (
          <button
            key={one}
            type="button"
            role="tab"
            aria-selected={one === section}
            className={cx(styles.chip, one === section && styles.on)}
            onClick={() => open(one)}
          >
            {SECTIONS[one]}
          </button>
        ))}
      </div>
      {section === 'papers' && <Papers show={show} />}
      {section === 'presets' && <Presets />}
      {section === 'compare' && <Compare show={show} />}
      {section === 'journal' && <Journal show={show} />}
    </main>
  );
}
