import Autocomplete from '@mui/material/Autocomplete';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useEffect, useRef, useState } from 'react';
import type { Choice, Settings } from '../../api/client';
import { set } from '../../api/edits';
import { type Column, useChoices } from '../../api/queries';
import styles from '../../look/look.module.css';

interface ChoiceProps {
  column: Column;
  label: string;
  number: number;
  version: number;
  /** What was typed to open it. */
  typed?: string;
  autoFocus?: boolean;
  onChoose: (settings: Settings) => void;
}

/** One of the values that the API offers. What the rig lacks is shown, cannot be chosen, and says why. */
export function ChoiceField({
  column,
  label,
  number,
  version,
  typed = '',
  autoFocus = false,
  onChoose,
}: ChoiceProps) {
  const choices = useChoices(column, number, version).data ?? [];
  const [text, setText] = useState<string | null>(typed || null);
  const current = choices.find((choice) => choice.current) ?? null;
  const input = useRef<HTMLInputElement>(null);
  const shownLabel = current?.label ?? '';
  // What stood here when it was opened, and what was set from here since.
  const [known, setKnown] = useState<string[]>([]);
  const [mine, setMine] = useState<Choice | null>(null);
  if (known.length === 0 && current) setKnown([shownLabel]);
  const theirs = current && known.length > 0 && !known.includes(shownLabel) ? shownLabel : null;
  const take = (choice: Choice | null) => {
    setMine(null);
    setKnown([...known, shownLabel, choice?.label ?? '']);
    onChoose(choice?.settings ?? {});
  };
  // What stands there is chosen and not typed: the next key starts again.
  useEffect(() => {
    if (text === null && document.activeElement === input.current) input.current?.select();
  }, [text, shownLabel]);
  return (
    <Autocomplete
      options={choices}
      filterOptions={(all, { inputValue }) => fitting(all, text === null ? '' : inputValue)}
      getOptionLabel={(choice) => choice.label}
      getOptionDisabled={(choice) => choice.missing !== null}
      getOptionKey={(choice) => JSON.stringify(choice.settings)}
      isOptionEqualToValue={(a, b) => a.label === b.label}
      value={current}
      inputValue={text ?? shownLabel}
      onInputChange={(_, next, why) => {
        // A reset comes on its own when the choices arrive, and must not take away what was typed to open the cell.
        if (why !== 'reset') setText(why === 'input' ? next : null);
      }}
      onChange={(_, choice) => {
        setText(null);
        if (theirs === null) take(choice);
        else setMine(choice);
      }}
      openOnFocus={autoFocus}
      autoHighlight
      disableClearable={current !== null}
      size="small"
      // Beside the field, so that the next one is to be seen.
      slotProps={{ popper: { role: 'region', 'aria-label': `Choices: ${label}`, placement: 'right-start' } }}
      renderOption={(props, choice) => {
        const { key, ...rest } = props as typeof props & { key: string };
        return (
          <li key={key} {...rest}>
            <span>
              {choice.label}
              {choice.missing && <small className={styles.why}>missing: {choice.missing}</small>}
            </span>
          </li>
        );
      }}
      renderInput={(params) => (
        <TextField
          {...params}
          label={label}
          autoFocus={autoFocus}
          inputRef={input}
          helperText={
            theirs !== null && (
              <Both
                theirs={theirs}
                mine={mine?.label ?? null}
                onTheirs={() => {
                  setMine(null);
                  setKnown([...known, theirs]);
                }}
                onMine={() => take(mine)}
              />
            )
          }
        />
      )}
    />
  );
}

const plain = (text: string) => text.toLowerCase().replace(/[\s·]+/g, '');

/** Choices that fit what is typed: those that it names exactly first, then those that begin with it. */
export function fitting(choices: Choice[], typed: string): Choice[] {
  const words = plain(typed);
  if (!words) return choices;
  const rank = ({ label, marks }: Choice) => {
    const names = [label, ...marks].map(plain);
    if (names.includes(words)) return 0;
    if (names.some((name) => name.startsWith(words))) return 1;
    return names.some((name) => name.includes(words)) ? 2 : 3;
  };
  return choices
    .map((choice) => ({ choice, at: rank(choice) }))
    .filter(({ at }) => at < 3)
    .sort((a, b) => a.at - b.at)
    .map(({ choice }) => choice);
}

interface BothProps {
  theirs: string | number;
  /** In words; null: nothing was chosen here yet. */
  mine: string | null;
  onTheirs: () => void;
  onMine: () => void;
}

/** Two values for one field: somebody else's, which is set, and the one that was chosen here. */
function Both({ theirs, mine, onTheirs, onMine }: BothProps) {
  return (
    <span role="alert">
      Someone else set this to “{theirs}”.{' '}
      <Button size="small" onClick={onTheirs}>
        Take “{theirs}”
      </Button>
      {mine !== null && (
        <Button size="small" onClick={onMine}>
          Set mine{mine && `, “${mine}”`}
        </Button>
      )}
    </span>
  );
}

interface TextProps {
  label: string;
  path: string;
  value: string | number;
  placeholder?: string;
}

/** A name or figure that is set when the field is left or Enter is pressed. What is being typed stays, whatever else changes
 * while somebody types; where somebody else has set this very thing, both are there to choose from. */
export function TextSetting({ label, path, value, placeholder }: TextProps) {
  const [draft, setDraft] = useState<{ text: string; sent: boolean } | null>(null);
  const [seen, see] = useState(value);
  const [theirs, setTheirs] = useState<string | number | null>(null);
  if (seen !== value) {
    see(value);
    if (draft?.sent) setDraft(null);
    setTheirs(draft && !draft.sent && draft.text !== String(value) ? value : null);
  }
  const keep = (mine = false) => {
    if (!draft || draft.sent || (theirs !== null && !mine)) return;
    setTheirs(null);
    const next = typeof value === 'number' ? Number(draft.text.replace('−', '-')) : draft.text;
    if (next === value || Number.isNaN(next)) return setDraft(null);
    setDraft({ ...draft, sent: true });
    void set({ [path]: next }).then((done) => done || setDraft(null));
  };
  return (
    <TextField
      label={label}
      size="small"
      value={draft?.text ?? String(value)}
      placeholder={placeholder}
      slotProps={{ inputLabel: placeholder ? { shrink: true } : {} }}
      helperText={
        theirs !== null && (
          <Both
            theirs={theirs}
            mine=""
            onTheirs={() => {
              setTheirs(null);
              setDraft(null);
            }}
            onMine={() => keep(true)}
          />
        )
      }
      onChange={(event) => setDraft({ text: event.target.value, sent: false })}
      onBlur={() => keep()}
      onKeyDown={(event) => event.key === 'Enter' && keep()}
    />
  );
}
