import Button from '@mui/material/Button';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { api, type Schemas, taken } from '../../../api/client';
import { complain, useCommand } from '../../../api/edits';
import { lookAt } from '../../../api/preview';
import { cx } from '../../../look/cx';
import { FilePick } from '../../../app/controls/FilePick';
import { dialogOf } from '../../../app/dialogs/dialogOf';
import styles from '../../../look/look.module.css';
import own from '../sheet/sheet.module.css';

type InputListRead = Schemas['InputListRead'];
type Column = InputListRead['columns'][number];

const EXAMPLE =
  'channel,name,socket,mic,stand,48v,side\n1,Tuba,A 1,dynamic,short boom,,left\n2,Fiddle,A 2,clip-on,,yes,left';

function Inside({ onClose }: { onClose: () => void }) {
  const [text, setText] = useState('');
  const [list, setList] = useState<InputListRead | null>(null);
  const [mapped, setMapped] = useState<Record<string, string>>({});
  const look = (read: InputListRead, columns: Record<string, string>) => {
    keep(columns);
    void lookAt(
      'input_list',
      { text: read.text, columns: { ...read.known, ...columns }, header: read.header },
      { onDone: onClose },
    );
  };
  const read = useCommand(async ({ body, header }: { body: Blob; header?: number }) => {
    const found = await taken(
      api.PUT('/api/input-lists/file', {
        headers: { 'Content-Type': 'application/octet-stream' },
        params: { query: header === undefined ? {} : { header } },
        body: body as unknown as string,
        bodySerializer: (one) => one as unknown as Blob,
      }),
    );
    setText(found.text);
    setList(found);
    setMapped(guessed(found.columns));
    // Where every column is known there is nothing to ask.
    if (found.columns.every((column) => column.field !== null || column.key in found.known)) look(found, {});
  });
  const type = (typed: string) => {
    setText(typed);
    setList(null);
  };
  const map = (column: Column, field: string) => {
    // What somebody gives to one column is taken from the one that was guessed.
    setMapped((before) => ({ ...without(before, field), [column.key]: field }));
    keep({ [column.key]: field });
  };
  return (
    <>
      <DialogTitle>Input list</DialogTitle>
      <DialogContent>
        <div className={styles.stack}>
          <p>
            One source per line, from a spreadsheet or text. Assign any column that is not recognised. A
            revised list updates the patch. You see every change before it is made.
          </p>
          <FilePick
            label="Input list file"
            accept=".csv,.txt,.tsv,.xlsx,text/csv"
            disabled={read.isPending}
            onPick={([file]) => file && read.mutate({ body: file })}
          >
            Choose a CSV or XLSX file
          </FilePick>
          <textarea
            className={cx(styles.find, own.pasted)}
            rows={9}
            aria-label="Input list"
            placeholder={EXAMPLE}
            value={text}
            onChange={(event) => type(event.target.value)}
          />
          {list && (
            <>
              <HeaderRow list={list} onPick={(header) => read.mutate({ body: new Blob([text]), header })} />
              <Columns list={list} mapped={mapped} onMap={map} />
            </>
          )}
          <p className={styles.hint}>
            <a href="/api/papers/inputs.csv" download>
              The list of this show as CSV
            </a>{' '}
            can be filled in and imported again.
          </p>
        </div>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Close</Button>
        <Button
          variant="contained"
          disabled={text.trim() === '' || read.isPending}
          onClick={() => (list ? look(list, mapped) : read.mutate({ body: new Blob([text]) }))}
        >
          Preview patch…
        </Button>
      </DialogActions>
    </>
  );
}

const guessed = (columns: Column[]) =>
  Object.fromEntries(columns.flatMap(({ key, guess }) => (guess === null ? [] : [[key, guess]])));

const without = (mapped: Record<string, string>, field: string) =>
  Object.fromEntries(Object.entries(mapped).map(([key, value]) => [key, value === field ? '' : value]));

/** Remembers what columns are, for every list. */
function keep(columns: Record<string, string>) {
  if (Object.keys(columns).length === 0) return;
  void taken(
    api.POST('/api/input-lists/columns', { body: { columns: columns as Record<string, ''> } }),
  ).catch(complain);
}

/** The first rows of the list, of which one is the header; another is chosen by one press. */
function HeaderRow({ list, onPick }: { list: InputListRead; onPick: (line: number) => void }) {
  return (
    <div role="radiogroup" aria-label="Header row" className={own.headers}>
      <span className={styles.quiet}>Header row</span>
      {list.rows.map(({ line, cells }) => (
        <button
          key={line}
          type="button"
          role="radio"
          aria-checked={line === list.header}
          className={own.headerRow}
          onClick={() => onPick(line)}
        >
          <span className={cx(styles.figure, styles.quiet)}>{line}:</span> {cells.join(' · ')}
        </button>
      ))}
    </div>
  );
}

/** What each column is taken for, with what stands in it. */
function Columns(props: {
  list: InputListRead;
  mapped: Record<string, string>;
  onMap: (column: Column, field: string) => void;
}) {
  const { list, mapped, onMap } = props;
  // What somebody gives to one column is taken from another.
  const field = ({ key, field: takenFor }: Column) =>
    mapped[key] ?? (takenFor !== null && Object.values(mapped).includes(takenFor) ? '' : (takenFor ?? ''));
  return (
    <table className={own.columns}>
      <thead>
        <tr>
          <th>Column</th>
          <th>Meaning</th>
          <th>For example</th>
        </tr>
      </thead>
      <tbody>
        {list.columns.map((column) => (
          <tr key={column.header}>
            <td>
              {column.header}
              {column.guess !== null && mapped[column.key] === column.guess && (
                <span className={styles.quiet}> guessed</span>
              )}
            </td>
            <td>
              <TextField
                select
                size="small"
                fullWidth
                value={field(column)}
                slotProps={{
                  htmlInput: { 'aria-label': `${column.header} is` },
                  select: { displayEmpty: true },
                }}
                onChange={(event) => onMap(column, event.target.value)}
              >
                <MenuItem value="">ignore</MenuItem>
                {list.fields.map((one) => (
                  <MenuItem key={one} value={one}>
                    {FIELDS[one] ?? one}
                  </MenuItem>
                ))}
              </TextField>
            </td>
            <td className={styles.quiet}>{column.samples.join(' · ')}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const FIELDS: Record<string, string> = {
  channel: 'channel number',
  name: 'name of the source',
  short: 'short name',
  socket: 'socket',
  mic: 'microphone or DI',
  stand: 'stand',
  phantom: '48 V',
  spot: 'stage position',
  colour: 'dye',
  gain: 'preamp gain',
  notes: 'notes',
};

/** An input list from a file or pasted; what it would patch is looked at first. */
export const InputListDialog = dialogOf(Inside, { maxWidth: 'sm', fullWidth: true });
