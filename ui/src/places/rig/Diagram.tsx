import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import Menu from '@mui/material/Menu';
import { type ReactNode, useState } from 'react';
import type { Rig, Schemas } from '../../api/client';
import { step } from '../../api/edits';
import { cx } from '../../look/cx';
import styles from '../../look/look.module.css';
import own from './rig.module.css';

type Way = Schemas['Way'];

interface DiagramProps {
  rig: Rig;
  /** "desk", "recorder", "interface" or a box's letter. */
  chosen: string;
  onChoose: (device: string) => void;
}

/** The rig in one line: stage boxes on their links, the desk, the card, the computer. */
export function Diagram({ rig, chosen, onChoose }: DiagramProps) {
  const is = (id: string) => chosen === id;
  const device = (id: string, props: Omit<DeviceProps, 'id' | 'on' | 'onChoose'>) => (
    <Device key={id} id={id} on={is(id)} onChoose={onChoose} {...props} />
  );
  const box = (letter: string) => {
    const one = rig.boxes.find((it) => it.letter === letter);
    if (!one) return null;
    return device(letter, {
      title: one.title,
      words: one.name,
      leads: one.leads,
      lines: [
        `${one.used} of ${one.inputs} planned`,
        one.port
          ? `in ${one.input_offset + 1}–${one.input_offset + one.inputs}, out ${one.output_offset + 1}–${one.output_offset + one.outputs}`
          : 'not connected',
        one.spot ? `stage ${one.spot}` : '',
      ],
    });
  };
  const loose = rig.boxes.filter((one) => one.port === null).map((one) => one.letter);
  return (
    <div className={own.diagram} role="group" aria-label="Rig diagram">
      <div>
        <h2>Stage</h2>
        {rig.ports.map((port) => (
          <div className={own.chain} key={port.id}>
            <div className={own.chainBoxes}>
              <AddBox rig={rig} port={port.id} first={port.chain.length === 0} />
              {[...port.chain].reverse().map((letter) => (
                <div className={own.chainLink} key={letter}>
                  {box(letter)}
                  <i className={own.cable} />
                </div>
              ))}
              <strong className={own.plug}>{port.id.toUpperCase()}</strong>
            </div>
            <Cable name={`Link ${port.id.toUpperCase()}`} up={port.up} down={port.down} />
          </div>
        ))}
        {loose.length > 0 && (
          <div className={own.chain}>
            <div className={own.chainBoxes}>{loose.map(box)}</div>
            <span className={styles.quiet}>not connected</span>
          </div>
        )}
        {rig.ports.length === 0 && (
          <p className={styles.quiet}>
            {rig.desk.name} has no ports for boxes; everything plugs in at the desk.
          </p>
        )}
      </div>
      <div>
        <h2>Desk</h2>
        {device('desk', {
          title: rig.desk.name,
          words: `${rig.desk.channels} channels, ${rig.desk.buses} buses, ${rig.desk.matrices} matrices`,
          leads: rig.desk.leads,
          lines: [
            ...rig.desk.inputs.map((one) =>
              one.names > one.present
                ? `${one.present} of ${one.names} ${one.label} sockets present`
                : `${one.present} ${one.label}`,
            ),
            rig.desk.aes3 ?? '',
            `${rig.desk.rate / 1000} kHz`,
            rig.desk.patching,
          ],
        })}
      </div>
      <div className={own.diagramCard}>
        <h2>{rig.card.label}</h2>
        <Cable name={rig.card.mode} up={rig.card.up} down={rig.card.down} words={['sends', 'returns']} />
      </div>
      <div>
        <h2>Computer</h2>
        {device('recorder', {
          title: 'Recorder',
          words: `${rig.recorder.armed} tracks armed`,
          leads: rig.recorder.leads,
          lines: [
            `${rig.recorder.lanes_in} lanes in, ${rig.recorder.lanes_out} out`,
            `buffer ${rig.recorder.buffer}: ${ms(rig.recorder.in_ms)} in, ${ms(rig.recorder.out_ms)} out, ${ms(rig.recorder.total_ms)} in all`,
          ],
        })}
        {rig.interface
          ? device('interface', {
              title: rig.interface.name,
              words: 'playback interface',
              leads: false,
              lines: [
                `${rig.interface.now} of ${rig.interface.outputs} outputs at ${rig.desk.rate / 1000} kHz, ${rig.recorder.bits} bit`,
                rig.interface.changeover
                  ? `${rig.interface.computers} computers, changeover by ${rig.interface.changeover}`
                  : '',
              ],
            })
          : device('interface', {
              title: 'No playback interface',
              words: '',
              leads: false,
              lines: [],
              free: true,
            })}
      </div>
    </div>
  );
}

const ms = (value: number) => `${value.toFixed(1)} ms`;

interface DeviceProps {
  id: string;
  title: string;
  words: string;
  leads: boolean;
  lines: string[];
  on: boolean;
  free?: boolean;
  onChoose: (id: string) => void;
}

function Device({ id, title, words, leads, lines, on, free, onChoose }: DeviceProps) {
  return (
    <button
      type="button"
      className={cx(own.device, on && own.on, free && own.free)}
      aria-pressed={on}
      data-device={id}
      onClick={() => onChoose(id)}
    >
      <span className={own.deviceHead}>
        <strong>{title}</strong>
        {leads && <span className={own.leads}>leads the clock</span>}
      </span>
      {words && <span>{words}</span>}
      {lines.filter(Boolean).map((line) => (
        <small key={line}>{line}</small>
      ))}
    </button>
  );
}

interface CableProps {
  name: string;
  up: Way;
  down: Way;
  words?: [string, string];
}

/** How full a cable is, both ways. */
function Cable({ name, up, down, words = ['to desk', 'to stage'] }: CableProps) {
  return (
    <div
      className={own.fill}
      aria-label={`${name}: ${up.used} of ${up.lanes} lanes ${words[0]}, ${down.used} of ${down.lanes} ${words[1]}`}
    >
      <strong>{name}</strong>
      <Fill way={up} mark="→" words={words[0]} />
      <Fill way={down} mark="←" words={words[1]} />
    </div>
  );
}

function Fill({ way, mark, words }: { way: Way; mark: string; words: string }): ReactNode {
  const share = (n: number) => `${way.lanes === 0 ? 0 : (Math.min(n, way.lanes) / way.lanes) * 100}%`;
  return (
    <div>
      <span className={styles.figure}>
        {mark} {way.used} / {way.sockets} / {way.lanes} <span className={styles.quiet}>{words}</span>
      </span>
      <i className={own.fillBar}>
        <i style={{ width: share(way.sockets) }} className={own.there} />
        <i style={{ width: share(way.used) }} className={own.used} />
      </i>
    </div>
  );
}

function AddBox({ rig, port, first }: { rig: Rig; port: string; first: boolean }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  return (
    <>
      <Button
        className={own.addBox}
        size="small"
        aria-label={`Add box on link ${port.toUpperCase()}`}
        onClick={(event) => setAnchor(event.currentTarget)}
      >
        {first ? `Add box on link ${port.toUpperCase()}` : 'Add box'}
      </Button>
      <Menu open={anchor !== null} anchorEl={anchor} onClose={() => setAnchor(null)}>
        {rig.choices.boxes.map((box) => (
          <MenuItem
            key={box.id}
            onClick={() => {
              setAnchor(null);
              void step('add_box', { profile: box.id, port });
            }}
          >
            {box.name}
          </MenuItem>
        ))}
      </Menu>
    </>
  );
}
