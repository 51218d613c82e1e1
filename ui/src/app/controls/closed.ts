/** For memo: what is closed needs not be drawn again for what changes behind it. */
export const bothClosed = (before: { open: boolean }, now: { open: boolean }) => !before.open && !now.open;
