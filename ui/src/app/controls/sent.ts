import { useEffect, useState } from 'react';
import { api } from '../../api/client';

class Sent {
  private id: string | null = null;

  keep(id: string) {
    this.id = id;
  }

  used() {
    this.id = null;
  }

  giveUp() {
    if (this.id !== null) void api.DELETE('/api/deliveries/{id}', { params: { path: { id: this.id } } });
    this.id = null;
  }
}

/** Files uploaded from a dialog: deleted when the dialog is cancelled, so that they do not fill the disk. */
export function useSent() {
  const [sent] = useState(() => new Sent());
  useEffect(() => () => sent.giveUp(), [sent]);
  return sent;
}
