/** For memo: a closed dialog is not rendered again. */
export const bothClosed = (before: { open: boolean }, now: { open: boolean }) => !before.open && !now.open;
