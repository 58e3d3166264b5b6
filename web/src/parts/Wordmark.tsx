export function Wordmark({ className = "", short = false }: { className?: string; short?: boolean }) {
  return (
    <span className={`inline-flex items-center gap-2 font-bold tracking-tight ${className}`}>
      <svg viewBox="0 0 32 32" className="h-[1.1em] w-[1.1em]" aria-hidden="true">
        <path d="M8 5v15a5 5 0 0 0 5 5h12" fill="none" stroke="currentColor" strokeWidth="4" strokeLinecap="round" />
        <circle cx="20" cy="11" r="4.4" fill="none" stroke="currentColor" strokeWidth="3.2" />
      </svg>
      <span className={short ? "hidden sm:inline" : ""}>Lumbek</span>
    </span>
  );
}
