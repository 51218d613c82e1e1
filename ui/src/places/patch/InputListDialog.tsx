import Button from '@mui/material/Button';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { useState } from 'react';
import { lookAt } from '../../api/preview';
import { cx } from '../../look/cx';
import { FilePick } from '../../app/FilePick';
import { dialogOf } from '../../app/dialogOf';
import styles from '../../look/look.module.css';
import own from './sheet.module.css';

const EXAMPLE =
  'channel,name,socket,mic,stand,48v,side\n1,Tuba,A 1,dynamic,short boom,,left\n2,Fiddle,A 2,clip-on,,yes,left';

function Inside({ onClose }: { onClose: () => void }) {
  const [text, setText] = useState('');
  const look = (list: string) => void lookAt('input_list', { text: list }, { onDone: onClose });
  const read = async (file: File | undefined) => {
    if (!file) return;
    const list = decode(await file.arrayBuffer());
    setText(list);
    look(list);
  };
  return (
    <>
      <DialogTitle>Input list</DialogTitle>
      <DialogContent>
        <div className={styles.stack}>
          <p>
            A table with one source a line. Columns are known by many names; commas, semicolons or tabs may
            part them. What is not understood is reported line by line, and nothing is changed before you have
            seen it.
          </p>
          <FilePick
            label="Input list file"
            accept=".csv,.txt,.tsv,text/csv"
            onPick={([file]) => void read(file)}
          >
            Choose a CSV file
          </FilePick>
          <textarea
            className={cx(styles.find, own.pasted)}
            rows={9}
            aria-label="Input list"
            placeholder={EXAMPLE}
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
          <p className={styles.hint}>
            <a href="/api/papers/inputs.csv" download>
              The list of this show as CSV
            </a>{' '}
            can be filled in and brought back.
          </p>
        </div>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Close</Button>
        <Button variant="contained" disabled={text.trim() === ''} onClick={() => look(text)}>
          Look at the patch…
        </Button>
      </DialogActions>
    </>
  );
}

/** UTF-8, or what spreadsheets wrote before it. */
function decode(bytes: ArrayBuffer): string {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}

/** An input list from a file or pasted; what it would patch is looked at first. */
export const InputListDialog = dialogOf(Inside, { maxWidth: 'sm', fullWidth: true });
