/** A market’s seal: its first letter cut into a square set on its corner, for where its name has no room. */
export function MarketSeal({ name }: { name: string }) {
  return (
    <svg viewBox="0 0 32 32" width="24" height="24" className="text-primary" aria-hidden="true">
      <rect x="5" y="5" width="22" height="22" rx="2" fill="currentColor" transform="rotate(45 16 16)" />
      <text
        x="16"
        y="21"
        textAnchor="middle"
        fill="var(--color-base-200)"
        fontFamily="var(--font-serif)"
        fontWeight="600"
        fontSize="15"
      >
        {[...name][0]}
      </text>
    </svg>
  );
}

/** All markets together: three of these squares. */
export function AllSeal() {
  return (
    <svg viewBox="0 0 32 32" width="24" height="24" className="text-primary" aria-hidden="true">
      {[
        [16, 9],
        [9, 20],
        [23, 20],
      ].map(([x, y]) => (
        <rect
          key={x}
          x={x! - 4}
          y={y! - 4}
          width="8"
          height="8"
          fill="currentColor"
          transform={`rotate(45 ${String(x)} ${String(y)})`}
        />
      ))}
    </svg>
  );
}
