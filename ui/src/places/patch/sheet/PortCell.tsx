import { type CSSProperties, memo, type MouseEvent } from 'react';
import type { Port } from '../../../api/client';
import { HEADS, RAILS, rowTop } from './layout';
import { cx } from '../../../look/cx';
import styles from '../../../look/look.module.css';
import own from './sheet.module.css';

export interface PortCellProps {
  port: Port;
  left: number;
  width: number;
  /** What it is beside a port: at the cursor, in the range, on the chosen strand, in a finding. */
  kinds: string;
  focusable: boolean;
  selected: boolean;
  onPoint: (port: Port, event: MouseEvent<HTMLElement>) => void;
  onOpen: (port: Port, cell: HTMLElement) => void;
  onDye: (port: Port, cell: HTMLElement) => void;
}

/** One port of the sheet. Drawn again only when something of it has changed. */
export const PortCell = memo(function PortCell(props: PortCellProps) {
  const { port, left, width, kinds, focusable, selected, onPoint, onOpen, onDye } = props;
  const dyed = (port.rail === 'channel' || port.rail === 'track') && (port.name !== '' || !port.free);
  return (
    <div
      role="gridcell"
      data-port={port.id}
      tabIndex={focusable ? 0 : -1}
      aria-label={`${HEADS[port.rail]} ${port.mark} ${port.name} ${port.note}`.trim()}
      aria-selected={selected}
      aria-colindex={RAILS.indexOf(port.rail) + 1}
      title={port.missing ?? undefined}
      className={cx(
        own.port,
        port.rail === 'socket' && own.railSocket,
        port.free && own.free,
        port.missing && own.missing,
        kinds,
      )}
      data-dye={port.dye}
      style={{ left, width, top: rowTop(port.row) } as CSSProperties}
      onClick={(event) => onPoint(port, event)}
      onDoubleClick={(event) => onOpen(port, event.currentTarget)}
    >
      {dyed && (
        <button
          type="button"
          className={own.dye}
          tabIndex={-1}
          aria-hidden="true" // for the mouse: F4 and the cell's editor have the dyes, too
          onClick={(event) => {
            event.stopPropagation();
            onDye(port, event.currentTarget);
          }}
        />
      )}
      <span className={cx(own.portMark, styles.figure)}>{port.mark}</span>{' '}
      <span className={own.portName}>{port.name}</span>{' '}
      {port.note && <span className={cx(own.portNote, styles.figure)}>{port.note}</span>}
    </div>
  );
});
