/** The open book with a well of ink. */
export function Logo() {
  return (
    <svg width="32" height="28" viewBox="0 0 32 28" aria-hidden="true" className="logo">
      <path className="leaf" d="M16 5C12 2 6 2 2 3v20c4-1 10-1 14 2 4-3 10-3 14-2V3C26 2 20 2 16 5z" />
      <path className="spine" d="M16 5v20" />
      <path className="well" d="M20 9h6v6a3 3 0 0 1-6 0z" />
    </svg>
  );
}
