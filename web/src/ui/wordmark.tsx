/** The name of the application with its gate. */
export function Wordmark() {
  return (
    <span className="inline-flex items-center gap-2 font-cond text-xl font-semibold whitespace-nowrap">
      <svg aria-hidden viewBox="0 0 14 18" className="h-[18px]">
        <path d="M1 18V7a6 6 0 0 1 12 0v11z" fill="var(--color-ink)" />
        <path d="M4 10.5h6" stroke="var(--color-paper)" strokeWidth="2" />
      </svg>
      Gate Mile
    </span>
  )
}
