/** The class names that count, in one text. */
export const cx = (...names: (string | false | null | undefined)[]) => names.filter(Boolean).join(' ');
