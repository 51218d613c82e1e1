import { useRef, useState } from 'react';
import type { Port } from '../../../api/client';
import { set } from '../../../api/edits';
import { tell } from '../../../api/notices';
import { rowTop } from '../sheet/layout';
import own from '../sheet/sheet.module.css';

interface NameProps {
  port: Port;
  left: number;
  width: number;
  /** go: where the next name is typed; 0 ends it. */
  onDone: (name: string | null, go: 0 | 1 | -1) => void;
}

/** Somebody else has named it while it was typed: that stays, unless this one is chosen. */
function tellBoth({ rail, number, name: theirs }: Port, mine: string) {
  tell({
    kind: 'info',
    text: `Someone else renamed this to “${theirs}”. Your “${mine}” was not saved.`,
    action: { label: `Call it “${mine}”`, run: () => void set({ [`${rail}/${number}/name`]: mine }) },
  });
}

/** A name typed in its place on the sheet. Enter keeps it and goes on to the next one, so that a list is typed quickly. */
export function NameInput({ port, left, width, onDone }: NameProps) {
  const [name, setName] = useState(port.name);
  const [first] = useState(port.name);
  const over = useRef(false);
  const done = (value: string | null, go: 0 | 1 | -1) => {
    if (over.current) return;
    over.current = true;
    if (value === null || port.name === first || value === port.name) return onDone(value, go);
    if (value !== first) tellBoth(port, value);
    onDone(null, go);
  };
  return (
    <input
      className={own.nameInput}
      aria-label={`Name of ${port.rail} ${port.mark}`}
      style={{ left, width, top: rowTop(port.row) }}
      value={name}
      maxLength={40}
      autoFocus
      onFocus={(event) => event.target.select()}
      onChange={(event) => setName(event.target.value)}
      onBlur={() => done(name, 0)}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === 'Enter' || event.key === 'ArrowDown') done(name, 1);
        else if (event.key === 'ArrowUp') done(name, -1);
        else if (event.key === 'Escape') done(null, 0);
        else return;
        event.preventDefault();
      }}
    />
  );
}
