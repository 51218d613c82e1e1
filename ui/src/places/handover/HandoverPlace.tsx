import { useState } from 'react';
import { useShow } from '../../api/queries';
import { Compare } from './Compare';
import { Journal } from './Journal';
import { Papers } from './Papers';
import { Presets } from './Presets';
import { ViewTabs } from '../../app/controls/ViewTabs';
import styles from '../../look/look.module.css';

const SECTIONS = [
  { id: 'papers', name: 'Sheets and files' },
  { id: 'presets', name: 'Presets' },
  { id: 'compare', name: 'Compare' },
  { id: 'journal', name: 'Journal' },
] as const;
type Section = (typeof SECTIONS)[number]['id'];

/** What goes to the next person: sheets and files, saved parts of the patch, what differs, and who changed what. */
export default function HandoverPlace() {
  const show = useShow().data;
  const [section, open] = useState<Section>('papers');
  if (!show) return null;
  return (
    <main>
      <ViewTabs label="Handover" views={SECTIONS} view={section} className={styles.tools} onTurn={open} />
      {section === 'papers' && <Papers show={show} />}
      {section === 'presets' && <Presets />}
      {section === 'compare' && <Compare show={show} />}
      {section === 'journal' && <Journal show={show} />}
    </main>
  );
}
