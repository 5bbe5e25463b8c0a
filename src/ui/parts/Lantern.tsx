/** The sign of the house. */
export function Lantern({ className }: { readonly className?: string }) {
  return (
    <svg viewBox="0 0 24 24" className={className} aria-hidden>
      <path
        d="M9 5h6M12 2v3M7.5 9h9l-1.5 12h-6z"
        fill="none"
        stroke="currentColor"
        strokeWidth="1.7"
        strokeLinecap="round"
        strokeLinejoin="round"
      />
      <path d="M12 11.5c2 2 2 4.5 0 6-2-1.5-2-4 0-6z" fill="var(--amber)" />
    </svg>
  );
}
