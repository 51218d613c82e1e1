import Autocomplete from '@mui/material/Autocomplete';
import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import Popover from '@mui/material/Popover';
import Switch from '@mui/material/Switch';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import type { Port, Show } from '../../api/client';
import { set, useChoices } from '../../api/queries';
import { useThemeName } from '../../look/theme';
import { dyeColour } from '../../look/tokens';
import { type Field, FIELDS } from './cells';
import { HEADS } from './layout';

interface EditorProps {
  port: Port;
  cell: HTMLElement;
  typed: string;
  show: Show;
  onClose: () => void;
}

/** Everything that can be set of one port. The first field has the focus, and already holds what was typed. */
export function CellEditor({ port, cell, typed, show, onClose }: EditorProps) {
  const { rail, number } = port;
  const channel = rail === 'channel' ? show.channels[number - 1] : undefined;
  const track = rail === 'track' ? show.tracks[number - 1] : undefined;
  return (
    <Popover open anchorEl={cell} onClose={onClose} anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}>
      <div
        style={{ padding: 16, width: 300, display: 'grid', gap: 14 }}
        role="dialog"
        aria-label={`Set ${HEADS[rail]} ${port.mark}`}
      >
        <h3>
          {HEADS[rail]} {port.mark} {port.name}
        </h3>
        {FIELDS[rail].map((field, i) => (
          <ChoiceField
            key={field.column}
            field={field}
            port={port}
            show={show}
            typed={i === 0 ? typed : ''}
            first={i === 0}
            onDone={onClose}
          />
        ))}
        {channel && (
          <>
            <TextSetting
              key={`n${show.version}`}
              label="Name"
              path={`channel/${number}/name`}
              value={channel.name}
            />
            <TextSetting
              key={`g${show.version}`}
              label="Preamp gain, dB"
              path={`channel/${number}/gain`}
              value={channel.gain}
            />
            <Dyes path={`channel/${number}/colour`} dyes={show.profile.dyes} value={channel.colour} />
          </>
        )}
        {track && (
          <>
            <TextSetting
              key={`t${show.version}`}
              label="Name"
              path={`track/${number}/name`}
              value={track.name}
            />
            <FormControlLabel
              label="Armed"
              control={
                <Switch
                  checked={track.armed}
                  onChange={(_, armed) => void set({ [`track/${number}/armed`]: armed })}
                />
              }
            />
            <FormControlLabel
              label="Stereo"
              control={
                <Switch
                  checked={track.stereo}
                  onChange={(_, stereo) =>
                    void set({
                      [`track/${number}/stereo`]: stereo,
                      [`track/${number}/inputs`]: [],
                      [`track/${number}/outputs`]: [],
                    })
                  }
                />
              }
            />
          </>
        )}
        <Button onClick={onClose}>Done</Button>
      </div>
    </Popover>
  );
}

interface ChoiceProps {
  field: Field;
  port: Port;
  show: Show;
  typed: string;
  first: boolean;
  onDone: () => void;
}

function ChoiceField({ field, port, show, typed, first, onDone }: ChoiceProps) {
  const choices = useChoices(field.column, port.number, show.version).data ?? [];
  const [text, setText] = useState<string | null>(typed || null);
  const current = choices.find((choice) => choice.current) ?? null;
  return (
    <Autocomplete
      options={choices}
      getOptionLabel={(choice) => choice.label}
      isOptionEqualToValue={(a, b) => a.label === b.label}
      value={current}
      inputValue={text ?? current?.label ?? ''}
      onInputChange={(_, next, why) => {
        // A reset comes by itself when the choices arrive, and must not take away what was typed to open the cell.
        if (why !== 'reset') setText(why === 'input' ? next : null);
      }}
      onChange={(_, choice) => {
        if (choice && !choice.current && Object.keys(choice.settings).length > 0) void set(choice.settings);
        if (first) onDone();
      }}
      openOnFocus={first}
      autoHighlight
      disableClearable={current !== null}
      size="small"
      renderInput={(params) => <TextField {...params} label={field.label} autoFocus={first} />}
    />
  );
}

/** A name or figure that is set when the field is left or Enter is pressed. */
function TextSetting({ label, path, value }: { label: string; path: string; value: string | number }) {
  const [text, setText] = useState(String(value));
  const keep = () => {
    if (text === String(value)) return;
    const next = typeof value === 'number' ? Number(text.replace('−', '-')) : text;
    if (typeof next === 'number' && Number.isNaN(next)) setText(String(value));
    else void set({ [path]: next }).then((done) => done || setText(String(value)));
  };
  return (
    <TextField
      label={label}
      size="small"
      value={text}
      onChange={(event) => setText(event.target.value)}
      onBlur={keep}
      onKeyDown={(event) => event.key === 'Enter' && keep()}
    />
  );
}

function Dyes({ path, dyes, value }: { path: string; dyes: string[]; value: string }) {
  const { name: theme } = useThemeName();
  return (
    <div role="radiogroup" aria-label="Dye" style={{ display: 'flex', flexWrap: 'wrap', gap: 6 }}>
      {dyes.map((dye) => (
        <button
          key={dye}
          type="button"
          role="radio"
          aria-checked={dye === value}
          aria-label={dye}
          title={dye}
          onClick={() => void set({ [path]: dye })}
          style={{
            width: 32,
            height: 32,
            borderRadius: 6,
            cursor: 'pointer',
            background: dyeColour(dye, theme),
            border: dye === value ? '3px solid var(--strong)' : '1px solid var(--rule)',
          }}
        />
      ))}
    </div>
  );
}
