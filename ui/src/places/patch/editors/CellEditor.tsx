import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import Popover from '@mui/material/Popover';
import Switch from '@mui/material/Switch';
import TextField from '@mui/material/TextField';
import type { Channel, Port, Settings, Show, Track } from '../../../api/client';
import { set } from '../../../api/edits';
import { lookAt } from '../../../api/preview';
import { FIELDS } from './cells';
import { ChannelMix } from './ChannelMix';
import { Dyes } from '../../../app/controls/Dyes';
import { ChoiceField, TextSetting } from '../../../app/controls/Fields';
import { LaneMove, lanesOf } from './LaneMove';
import { HEADS } from '../sheet/layout';
import { patch } from './patching';
import { cx } from '../../../look/cx';
import styles from '../../../look/look.module.css';

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
  const choose = (settings: Settings, first: boolean) => {
    if (first) onClose();
    if (Object.keys(settings).length > 0) void patch(show, settings);
  };
  return (
    // Without a transition: the list of choices opens with it, beside where it comes to stand.
    <Popover
      open
      anchorEl={cell}
      onClose={onClose}
      transitionDuration={0}
      anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
    >
      <div className={styles.editor} role="dialog" aria-label={`Set ${HEADS[rail]} ${port.mark}`}>
        <h3>
          {HEADS[rail]} {port.mark} {port.name}
        </h3>
        {port.missing && <p className={cx(styles.note, styles.look)}>Missing: {port.missing}.</p>}
        {FIELDS[rail].map((field, i) => (
          <ChoiceField
            key={field.column}
            column={field.column}
            label={field.label}
            number={number}
            version={show.version}
            typed={i === 0 ? typed : ''}
            autoFocus={i === 0}
            onChoose={(settings) => choose(settings, i === 0)}
          />
        ))}
        {channel && <ChannelFields channel={channel} show={show} />}
        {track && <TrackFields track={track} show={show} />}
        {(rail === 'send' || rail === 'return') && (
          <LaneMove way={rail} lanes={lanesOf(show, port)} onClose={onClose} />
        )}
        <Button onClick={onClose}>Done</Button>
      </div>
    </Popover>
  );
}

function Toggle({ label, on, path }: { label: string; on: boolean; path: string }) {
  return (
    <FormControlLabel
      label={label}
      control={<Switch size="small" checked={on} onChange={(_, next) => void set({ [path]: next })} />}
    />
  );
}

function ChannelFields({ channel, show }: { channel: Channel; show: Show }) {
  const at = `channel/${channel.number}`;
  return (
    <>
      <div className={styles.pair}>
        <TextSetting label="Name" path={`${at}/name`} value={channel.name} />
        <TextSetting label="Short name" path={`${at}/short`} value={channel.short} />
        <TextSetting label="Microphone" path={`${at}/mic`} value={channel.mic} />
        <TextSetting label="Stand" path={`${at}/stand`} value={channel.stand} />
        <TextSetting label="Notes" path={`${at}/notes`} value={channel.notes} />
        <TextSetting label="Preamp gain (dB)" path={`${at}/gain`} value={channel.gain} />
        {channel.trims && <TextSetting label="Trim (dB)" path={`${at}/trim`} value={channel.trim} />}
        <TextField
          select
          label="Stage position"
          size="small"
          value={channel.spot ?? ''}
          onChange={(event) => void set({ [`${at}/spot`]: event.target.value || null })}
        >
          {['', 'left', 'centre', 'right'].map((spot) => (
            <MenuItem key={spot} value={spot}>
              {spot || 'anywhere'}
            </MenuItem>
          ))}
        </TextField>
      </div>
      <div className={styles.row}>
        <Toggle label="48 V" on={channel.phantom} path={`${at}/phantom`} />
        <Toggle label="Locked for auto-patch" on={channel.fixed} path={`${at}/fixed`} />
      </div>
      <ChannelMix channel={channel} />
      <Treatments channel={channel} show={show} />
      <Dyes
        dyes={show.profile.dyes}
        value={channel.colour}
        onChoose={(dye) => void set({ [`${at}/colour`]: dye })}
      />
    </>
  );
}

const SECOND = [
  { label: 'Off main', options: { main: false } },
  { label: 'On main as well', options: { main: true } },
];

/** Other channels that hear the same socket, and what else can be made of this one. */
function Treatments({ channel, show }: { channel: Channel; show: Show }) {
  const others = show.channels.filter((one) => channel.same_preamp.includes(one.number));
  return (
    <>
      {others.length > 0 && (
        <p className={styles.note}>
          Shares its socket with {others.map((one) => `channel ${one.number} ${one.name}`).join(' and ')}:
          gain and 48 V are common{channel.trims && '; trim is per channel'}.
        </p>
      )}
      <div className={styles.row}>
        <Button
          size="small"
          disabled={channel.stage === null}
          onClick={() =>
            void lookAt('second_channel', { channel: channel.number, main: false }, { ways: SECOND })
          }
        >
          Add a second channel…
        </Button>
        <Button size="small" onClick={() => void lookAt('wet_capture', { channels: [channel.number] })}>
          Add a processed track…
        </Button>
      </div>
    </>
  );
}

function TrackFields({ track, show }: { track: Track; show: Show }) {
  const at = `track/${track.number}`;
  return (
    <>
      <TextSetting label="Name" path={`${at}/name`} value={track.name} placeholder={track.title} />
      <TextSetting
        label="Return group"
        path={`${at}/shares`}
        value={track.shares}
        placeholder="none (own return)"
      />
      <div className={styles.row}>
        <Toggle label="Armed" on={track.armed} path={`${at}/armed`} />
        <FormControlLabel
          label="Stereo"
          control={
            <Switch
              size="small"
              checked={track.stereo}
              onChange={(_, stereo) =>
                void set({ [`${at}/stereo`]: stereo, [`${at}/inputs`]: [], [`${at}/outputs`]: [] })
              }
            />
          }
        />
      </div>
      <Dyes
        dyes={show.profile.dyes}
        value={track.colour}
        onChoose={(dye) => void set({ [`${at}/colour`]: dye })}
      />
      {track.colour !== null && (
        <Button size="small" onClick={() => void set({ [`${at}/colour`]: null })}>
          Use the dye of its source
        </Button>
      )}
    </>
  );
}
