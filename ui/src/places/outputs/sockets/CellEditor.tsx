import Autocomplete from '@mui/material/Autocomplete';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { change, changeBy } from '../../../api/careful';
import type { Outputs } from '../../../api/client';
import { set } from '../../../api/edits';
import { type Column, forAll, type Line } from './sheet';

interface EditorProps {
  /** The chosen lines, the first one on top. */
  lines: Line[];
  column: Column;
  outputs: Outputs;
  typed: string;
  onClose: () => void;
}

/** Changes a cell, or the same of all chosen lines. */
export function CellEditor({ lines, column, outputs, typed, onClose }: EditorProps) {
  const first = lines[0];
  if (!first) return null;
  if (column === 'delay') return <Delay lines={lines} outputs={outputs} typed={typed} onClose={onClose} />;
  const choices = choicesOf(lines, column, outputs);
  return (
    <Choose
      label={column === 'source' ? 'Source' : column === 'tap' ? 'Tap' : 'Expected socket'}
      choices={choices}
      typed={typed}
      onClose={onClose}
      onChoose={(id) => {
        onClose();
        if (column === 'tap') change(forAll(lines, 'tap', id));
        else if (column === 'expected') void set(forAll(lines, 'expected', id || null));
        else changeBy('outputs', { kind: first.kind, first: first.number, count: lines.length, source: id });
      }}
    />
  );
}

interface Choice {
  id: string;
  label: string;
}

function choicesOf(lines: Line[], column: Column, outputs: Outputs): Choice[] {
  const none = { id: '', label: 'nothing' };
  if (column === 'source')
    return [none, ...outputs.can.sources.map((one) => ({ id: one.point, label: one.label }))];
  if (column === 'tap') {
    const taps = lines[0]?.taps ?? [];
    return outputs.can.taps.filter((one) => taps.includes(one.id));
  }
  const sockets = new Map(outputs.outputs.flatMap((one) => one.sockets).map((one) => [one.point, one.label]));
  return [none, ...[...sockets].map(([id, label]) => ({ id, label }))];
}

interface ChooseProps {
  label: string;
  choices: Choice[];
  typed: string;
  onChoose: (id: string) => void;
  onClose: () => void;
}

function Choose({ label, choices, typed, onChoose, onClose }: ChooseProps) {
  const [text, setText] = useState(typed);
  return (
    <Autocomplete<Choice, false, true>
      options={choices}
      getOptionKey={(one) => one.id}
      isOptionEqualToValue={(a, b) => a.id === b.id}
      inputValue={text}
      onInputChange={(_, next, why) => why === 'input' && setText(next)}
      onChange={(_, one) => onChoose(one.id)}
      onClose={(_, why) => why === 'escape' && onClose()}
      onBlur={onClose}
      open
      disableClearable
      autoHighlight
      size="small"
      slotProps={{ popper: { role: 'region', 'aria-label': `Choices: ${label}` } }}
      renderInput={(params) => (
        <TextField
          {...params}
          hiddenLabel
          autoFocus
          slotProps={{
            ...params.slotProps,
            htmlInput: { ...params.slotProps.htmlInput, 'aria-label': label },
          }}
        />
      )}
    />
  );
}

interface DelayProps {
  lines: Line[];
  outputs: Outputs;
  typed: string;
  onClose: () => void;
}

/** Milliseconds, kept as samples. */
function Delay({ lines, outputs, typed, onClose }: DelayProps) {
  const [text, setText] = useState(typed || String(lines[0]?.delayMs ?? 0));
  const keep = () => {
    const ms = Number(text.replace(',', '.'));
    onClose();
    if (!Number.isNaN(ms)) change(forAll(lines, 'delay', Math.round((ms * outputs.rate) / 1000)));
  };
  return (
    <TextField
      size="small"
      hiddenLabel
      slotProps={{ htmlInput: { 'aria-label': `Delay, 0 to ${outputs.can.longest_ms} ms` } }}
      autoFocus
      value={text}
      onChange={(event) => setText(event.target.value)}
      onBlur={onClose}
      onKeyDown={(event) => {
        if (event.key === 'Enter') keep();
        if (event.key === 'Escape') onClose();
      }}
    />
  );
}
