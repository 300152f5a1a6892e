import type { ReactNode } from 'react';

/** The map of a shower with what is below it, and what is said beside it; on a phone what is said stands where `first` puts it. */
export function Beside({
  map,
  below,
  label,
  first = false,
  children,
}: {
  map: ReactNode;
  below: ReactNode;
  label: string;
  first?: boolean;
  children: ReactNode;
}) {
  return (
    <main className="bench grid min-h-0 grid-cols-[1fr_432px] max-lg:grid-cols-1">
      <div className="flex min-h-0 flex-col gap-1 p-3">
        <div className="min-h-0 flex-1 max-lg:h-80 max-lg:flex-none">{map}</div>
        {below}
      </div>
      <aside
        className={`flex min-h-0 flex-col gap-4 overflow-y-auto border-edge border-l p-3 max-lg:border-l-0 ${first ? 'max-lg:order-first' : ''}`}
        aria-label={label}
      >
        {children}
      </aside>
    </main>
  );
}
