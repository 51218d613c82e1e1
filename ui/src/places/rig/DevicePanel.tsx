import { useLiveState } from '../../api/live';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { Preview, Rig, Settings, Show } from '../../api/client';
import { set, type StepKind, type StepOptions } from '../../api/edits';
import { takeCarefully } from '../../api/preview';
import { ChoiceField, TextSetting } from '../../app/controls/Fields';
import { LookBack } from './LookBack';
import { RoundTrip } from './RoundTrip';
import { SoundDevice } from './SoundDevice';
import { StateNote } from '../../app/status/StateNote';
import { cx } from '../../look/cx';
import styles from '../../look/look.module.css';

interface PanelProps {
  rig: Rig;
  show: Show;
  /** "desk", "recorder", "interface" or a box's letter. */
  chosen: string;
}

// What breaks strands, or makes something wrong, is shown before it is done.
const harms = (preview: Preview) => preview.losses.length > 0 || preview.findings_new.length > 0;
const careful = (kind: StepKind, options: StepOptions) => void takeCarefully(kind, options, harms);
const put = (settings: Settings) => careful('settings', { settings });

/** The chosen device with all that can be set of it. */
export function DevicePanel({ rig, show, chosen }: PanelProps) {
  return (
    <aside className={cx(styles.side, styles.wide)} aria-label="Device">
      {chosen === 'desk' ? (
        <DeskFields rig={rig} />
      ) : chosen === 'recorder' ? (
        <RecorderFields rig={rig} show={show} />
      ) : chosen === 'interface' ? (
        <InterfaceFields rig={rig} />
      ) : (
        <BoxFields rig={rig} letter={chosen} />
      )}
    </aside>
  );
}

interface PickProps {
  label: string;
  value: string;
  options: { id: string; name: string }[];
  onChoose: (id: string) => void;
}

function Pick({ label, value, options, onChoose }: PickProps) {
  return (
    <TextField
      select
      label={label}
      size="small"
      fullWidth
      value={value}
      onChange={(event) => onChoose(event.target.value)}
    >
      {options.map((one) => (
        <MenuItem key={one.id} value={one.id}>
          {one.name}
        </MenuItem>
      ))}
    </TextField>
  );
}

const named = (values: (string | number)[], unit = '') =>
  values.map((value) => ({ id: String(value), name: `${value}${unit}` }));

function ClockPick({ rig }: { rig: Rig }) {
  const leaders = [
    ...(rig.desk.leads ? ['desk'] : []),
    ...(rig.recorder.leads ? ['recorder'] : []),
    ...rig.boxes.filter((one) => one.leads).map((one) => `box-${one.letter}`),
  ];
  return (
    <>
      <Pick
        label="Leads the clock"
        value={leaders.length === 1 ? (leaders[0] ?? '') : ''}
        options={rig.choices.clocks}
        onChoose={(leader) => careful('clock', { leader })}
      />
      {leaders.length !== 1 && (
        <p className={cx(styles.note, styles.stop)}>
          {leaders.length === 0 ? 'No device leads the clock.' : `${leaders.length} devices lead the clock.`}{' '}
          Choose one.
        </p>
      )}
    </>
  );
}

function DeskFields({ rig }: { rig: Rig }) {
  return (
    <div className={styles.fields}>
      <h2>{rig.desk.name}</h2>
      <Pick
        label="Desk"
        value={rig.desk.id}
        options={rig.choices.desks}
        onChoose={(desk) => careful('desk', { desk })}
      />
      <Pick
        label="Sample rate"
        value={String(rig.desk.rate)}
        options={rig.choices.rates.map((rate) => ({ id: String(rate), name: `${rate / 1000} kHz` }))}
        onChoose={(rate) => put({ 'rig/rate': Number(rate) })}
      />
      <ClockPick rig={rig} />
      <Pick
        label={`Mode of the ${rig.card.label.toLowerCase()}`}
        value={rig.card.mode}
        options={rig.card.modes.map((mode) => ({ id: mode.id, name: `${mode.id}, each way` }))}
        onChoose={(mode) => put({ 'setup/card_mode': mode })}
      />
      <p className={styles.hint}>{rig.desk.patching}.</p>
    </div>
  );
}

function BoxFields({ rig, letter }: { rig: Rig; letter: string }) {
  const box = rig.boxes.find((one) => one.letter === letter);
  if (!box) return <StateNote kind="empty">This box is gone. Choose another device.</StateNote>;
  const at = `box/${letter}`;
  const chain = rig.ports.find((port) => port.id === box.port)?.chain ?? [];
  return (
    <div className={styles.fields} key={letter}>
      <h2>{box.title}</h2>
      <Pick
        label="Kind"
        value={box.profile}
        options={rig.choices.boxes}
        onChoose={(profile) => put({ [`${at}/profile`]: profile })}
      />
      <Pick
        label="On port"
        value={box.port ?? ''}
        options={[
          ...named(rig.ports.map((port) => port.id)).map((one) => ({ ...one, name: one.name.toUpperCase() })),
          { id: '', name: 'no link' },
        ]}
        onChoose={(port) => careful('connect_box', { box: letter, port: port || null })}
      />
      {box.port && (
        <>
          <Pick
            label="Place in the chain"
            value={String(box.place)}
            options={named([1, 2, 3, 4, 5, 6, 7, 8])}
            onChoose={(place) => put({ [`${at}/place`]: Number(place) })}
          />
          <div className={styles.pair}>
            <TextSetting label="Input offset" path={`${at}/input_offset`} value={box.input_offset} />
            <TextSetting label="Output offset" path={`${at}/output_offset`} value={box.output_offset} />
          </div>
          <p className={styles.hint}>
            Inputs take lanes {box.input_offset + 1} to {box.input_offset + box.inputs}, outputs{' '}
            {box.output_offset + 1} to {box.output_offset + box.outputs} of link {box.port.toUpperCase()}.
          </p>
          {chain.length > 1 && (
            <Button variant="outlined" onClick={() => careful('chain_offsets', { port: box.port })}>
              Set the chain’s offsets in order
            </Button>
          )}
        </>
      )}
      <Pick
        label="Stage position"
        value={box.spot ?? ''}
        options={[{ id: '', name: 'anywhere' }, ...named(rig.choices.spots)]}
        onChoose={(spot) => void set({ [`${at}/spot`]: spot || null })}
      />
      <ClockPick rig={rig} />
      <Button color="error" variant="outlined" onClick={() => careful('remove_box', { box: letter })}>
        Remove {box.title}…
      </Button>
    </div>
  );
}

/** Whether second copies can be written where they are planned. */
function SecondCopy() {
  const recorder = useLiveState()?.recorder;
  const words = recorder?.mirror_problem ?? recorder?.mirror_note;
  return words ? <p className={recorder?.mirror_problem ? styles.inStop : styles.inLook}>{words}</p> : null;
}

function RecorderFields({ rig, show }: { rig: Rig; show: Show }) {
  const { recorder } = rig;
  return (
    <div className={styles.fields}>
      <h2>Recorder</h2>
      <Pick
        label="Buffer"
        value={String(recorder.buffer)}
        options={named(rig.choices.buffers, ' samples')}
        onChoose={(buffer) => put({ 'setup/buffer': Number(buffer) })}
      />
      <p className={cx(styles.figure, styles.quiet)}>
        {recorder.in_ms.toFixed(1)} ms in, {recorder.out_ms.toFixed(1)} ms out, {recorder.total_ms.toFixed(1)}{' '}
        ms there and back
      </p>
      <Pick
        label="Files"
        value={String(show.setup.bits)}
        options={[
          { id: '24', name: '24-bit' },
          { id: '32', name: '32-bit float' },
        ]}
        onChoose={(bits) => put({ 'setup/bits': Number(bits) })}
      />
      <TextSetting label="Second copy of takes in" path="setup/mirror" value={show.setup.mirror} />
      <SecondCopy />
      <SoundDevice />
      <LookBack />
      <RoundTrip />
      <Pick
        label="Monitor the stage through"
        value={recorder.monitoring}
        options={[
          { id: 'desk', name: 'the desk' },
          { id: 'computer', name: 'the computer' },
        ]}
        onChoose={(monitoring) => put({ 'setup/monitoring': monitoring })}
      />
      <ChoiceField
        column="own_mix"
        label="Recorder mix output (card returns)"
        number={1}
        version={show.version}
        onChoose={(settings) => Object.keys(settings).length > 0 && put(settings)}
      />
      <Pick
        label="Default send tap"
        value={recorder.default_tap}
        options={rig.choices.taps.map((tap) => ({ id: tap.id, name: tap.label }))}
        onChoose={(tap) => put({ 'setup/default_tap': tap })}
      />
      <TextSetting
        label="Length of the show (min)"
        path="setup/length_minutes"
        value={recorder.length_minutes}
      />
      <ClockPick rig={rig} />
    </div>
  );
}

function InterfaceFields({ rig }: { rig: Rig }) {
  const found = rig.interface;
  return (
    <div className={styles.fields}>
      <h2>Playback interface</h2>
      <Pick
        label="Interface"
        value={found?.id ?? ''}
        options={[{ id: '', name: 'none' }, ...rig.choices.interfaces]}
        onChoose={(id) => put({ 'rig/interface': id || null })}
      />
      {found && (
        <table className={styles.plain}>
          <thead>
            <tr>
              <th>Rate</th>
              <th>Bits</th>
              <th>Outputs at once</th>
            </tr>
          </thead>
          <tbody>
            {found.modes.map((mode) => (
              <tr
                key={`${mode.rate}/${mode.bits}`}
                className={
                  mode.rate === rig.desk.rate && mode.bits === rig.recorder.bits ? styles.strong : undefined
                }
              >
                <td className={styles.figure}>{mode.rate / 1000} kHz</td>
                <td className={styles.figure}>{mode.bits}</td>
                <td className={styles.figure}>{mode.outputs}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  );
}
