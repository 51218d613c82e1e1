import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { Show } from '../../../api/client';
import { step, type StepOptions } from '../../../api/edits';
import { lookAt } from '../../../api/preview';
import { useOutputs } from '../../../api/queries';
import styles from '../../../look/look.module.css';

interface MixProps {
  channels: number[];
  show: Show;
  onClose: () => void;
}

/** How a range of channels is mixed: main, polarity, the tap of their card sends, subgroups. */
export function RangeMix({ channels, show, onClose }: MixProps) {
  const groups = useOutputs().data?.buses.filter((bus) => bus.mode === 'subgroup') ?? [];
  const give = (options: StepOptions) =>
    void step('mix_range', { channels, ...options }).then((done) => done && onClose());
  const giving = (label: string, options: StepOptions) => (
    <Button onClick={() => give(options)}>{label}</Button>
  );
  const group = (value: string) => {
    const [way, number] = value.split(' ');
    void lookAt(
      'mix_range',
      { channels, subgroup: Number(number), within: way === 'into' },
      { onDone: onClose },
    );
  };
  const titled = ({ number, name }: { number: number; name: string }) => `${number} ${name}`.trim();
  const within = groups.filter((bus) =>
    channels.some((one) => show.channels[one - 1]?.groups.includes(bus.number)),
  );
  return (
    <>
      <div className={styles.row}>
        {giving('On main', { main: true })}
        {giving('Off main', { main: false })}
      </div>
      <div className={styles.row}>
        {giving('Invert polarity', { polarity: true })}
        {giving('Normal polarity', { polarity: false })}
      </div>
      <div className={styles.pair}>
        <TextField
          select
          label="Subgroup"
          size="small"
          value=""
          onChange={(event) => group(event.target.value)}
        >
          <MenuItem value="into 0">into a new subgroup</MenuItem>
          {groups.map((bus) => (
            <MenuItem key={`into ${bus.number}`} value={`into ${bus.number}`}>
              into {titled(bus)}
            </MenuItem>
          ))}
          {within.map((bus) => (
            <MenuItem key={`from ${bus.number}`} value={`from ${bus.number}`}>
              out of {titled(bus)}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          select
          label="Send taps"
          size="small"
          value=""
          onChange={(event) => give({ tap: event.target.value === 'show' ? null : event.target.value })}
        >
          <MenuItem value="show">as the show</MenuItem>
          {show.profile.taps.map((tap) => (
            <MenuItem key={tap.id} value={tap.id}>
              {tap.label}
            </MenuItem>
          ))}
        </TextField>
      </div>
    </>
  );
}
