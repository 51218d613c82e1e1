import Button from '@mui/material/Button';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { useState } from 'react';
import { JoinDialog } from './JoinDialog';
import { PartsDialog } from './PartsDialog';
import { type RowProps, channels, type Row, splitChannels, splitParts } from './delivery';

/** Manual changes of a recording: join, split, order its parts. */
export function Arrange(props: RowProps) {
  const { items, rows, at, onChange } = props;
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [dialog, setDialog] = useState<'join' | 'parts' | null>(null);
  const item = items[at];
  if (!item) return null;
  const many = channels(item);
  const parts = item.pieces.length;
  const open = (which: typeof dialog) => {
    setAnchor(null);
    setDialog(which);
  };
  const change = (next: Row[]) => {
    setAnchor(null);
    onChange(next);
  };
  return (
    <>
      <Button
        size="small"
        aria-haspopup="menu"
        aria-label={`Arrange ${item.title}`}
        onClick={(event) => setAnchor(event.currentTarget)}
      >
        Arrange
      </Button>
      <Menu open={anchor !== null} anchorEl={anchor} onClose={() => setAnchor(null)}>
        <MenuItem disabled={items.length < 2} onClick={() => open('join')}>
          Join with another…
        </MenuItem>
        {parts > 1 && <MenuItem onClick={() => open('parts')}>Order of parts…</MenuItem>}
        {parts > 1 && (
          <MenuItem onClick={() => change(splitParts(rows, at))}>Split into {parts} parts</MenuItem>
        )}
        <MenuItem disabled={many < 2} onClick={() => change(splitChannels(rows, at, many))}>
          {many > 2 ? `Split into ${many} channels` : 'Split into left and right'}
        </MenuItem>
      </Menu>
      {dialog === 'join' && <JoinDialog {...props} onClose={() => setDialog(null)} />}
      {dialog === 'parts' && <PartsDialog {...props} onClose={() => setDialog(null)} />}
    </>
  );
}
