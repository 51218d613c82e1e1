import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import { type FormEvent, useState } from 'react';
import { api, type Schemas, taken } from '../../api/client';
import { useCommand } from '../../api/edits';
import { lookAt } from '../../api/preview';
import { refresh, usePresets } from '../../api/queries';
import { SureButton } from '../../app/controls/SureButton';
import { count, moment } from '../../look/format';
import { QueryState } from '../../app/status/QueryState';
import { StateNote } from '../../app/status/StateNote';
import { cx } from '../../look/cx';
import styles from '../../look/look.module.css';
import own from './handover.module.css';

type Part =
  import('../../api/schema').paths['/api/presets']['post']['requestBody']['content']['application/json']['parts'][number];
const PARTS: Record<Part, string> = {
  inputs: 'Inputs',
  sends: 'Sends',
  returns: 'Returns',
  mix: 'Mix',
  outputs: 'Outputs',
  playback: 'Playback',
  names: 'Names',
  rig: 'Rig',
};
const ALL = Object.keys(PARTS) as Part[];

/** Parts of the patch to keep and to recall, in this show or another. */
export function Presets() {
  return (
    <>
      <KeepPreset />
      <QueryState of={usePresets()} waiting="Reading the presets …">
        {(presets) =>
          presets.length === 0 ? (
            <StateNote kind="empty">
              No presets yet. Save the current patch under a name and recall it any time, in any show.
            </StateNote>
          ) : (
            <ul className={cx(styles.list, own.presets)}>
              {presets.map((preset) => (
                <PresetRow key={preset.id} preset={preset} />
              ))}
            </ul>
          )
        }
      </QueryState>
    </>
  );
}

function PartBoxes({
  of,
  chosen,
  onChoose,
}: {
  of: Part[];
  chosen: Part[];
  onChoose: (parts: Part[]) => void;
}) {
  return (
    <span className={styles.row}>
      {of.map((part) => (
        <label key={part}>
          <Checkbox
            size="small"
            checked={chosen.includes(part)}
            onChange={(_, on) => onChoose(on ? [...chosen, part] : chosen.filter((one) => one !== part))}
          />
          {PARTS[part]}
        </label>
      ))}
    </span>
  );
}

function KeepPreset() {
  const [name, setName] = useState('');
  const [parts, setParts] = useState<Part[]>(ALL.filter((part) => part !== 'rig'));
  const keep = useCommand(async () => {
    await taken(api.POST('/api/presets', { body: { name, parts } }));
    setName('');
    await refresh('presets');
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    keep.mutate(undefined);
  };
  return (
    <form className={styles.tools} onSubmit={submit}>
      <input
        className={styles.find}
        aria-label="Preset name"
        placeholder="Preset name"
        value={name}
        maxLength={80}
        onChange={(event) => setName(event.target.value)}
      />
      <PartBoxes of={ALL} chosen={parts} onChoose={setParts} />
      <Button type="submit" variant="contained" disabled={name.trim() === '' || parts.length === 0}>
        Save preset
      </Button>
    </form>
  );
}

function PresetRow({ preset }: { preset: Schemas['Preset'] }) {
  const of = ALL.filter((part) => preset.parts.includes(part));
  const [parts, setParts] = useState<Part[]>(of);
  const remove = useCommand(async () => {
    await taken(api.DELETE('/api/presets/{id}', { params: { path: { id: preset.id } } }));
    await refresh('presets');
  });
  return (
    <li>
      <span>
        <strong>{preset.name}</strong>{' '}
        <span className={styles.quiet}>
          {count(preset.count, 'setting')}, {moment(preset.at)}, by {preset.who}
        </span>
        <br />
        <PartBoxes of={of} chosen={parts} onChoose={setParts} />
      </span>
      <span className={styles.row}>
        <SureButton what={preset.name} onSure={() => remove.mutate(undefined)} />
        <Button
          size="small"
          variant="outlined"
          disabled={parts.length === 0}
          onClick={() => void lookAt('preset', { preset: preset.id, parts })}
        >
          Recall…
        </Button>
      </span>
    </li>
  );
}
