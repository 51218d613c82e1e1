/** An icon drawn with one line, for a button in the state band. */
export const LineIcon = ({ path }: { path: string }) => (
  <svg
    viewBox="0 0 24 24"
    width="22"
    height="22"
    fill="none"
    stroke="currentColor"
    strokeWidth="1.7"
    aria-hidden="true"
  >
    <path d={path} />
  </svg>
);
