/** A line of a few per cents, for a table; the figures are in its title and its words. */
export function Sparkline({ values }: { readonly values: readonly (number | null)[] }) {
  const known = values.flatMap((v, i) => (v == null ? [] : [{ x: i, y: v }]));
  if (known.length === 0) return <span className="text-muted">none yet</span>;
  const W = 110;
  const H = 22;
  const x = (i: number) => 3 + ((W - 6) * i) / Math.max(1, values.length - 1);
  const y = (v: number) => H - 3 - ((H - 6) * Math.max(0, Math.min(100, v))) / 100;
  const words = known.map((k) => `week ${k.x + 1}: ${Math.round(k.y)} %`).join(', ');
  const last = known.at(-1)!;
  return (
    <svg viewBox={`0 0 ${W} ${H}`} width={W} height={H} role="img" aria-label={words}>
      <title>{words}</title>
      <line x1={0} x2={W} y1={y(50)} y2={y(50)} stroke="var(--line)" />
      <polyline
        points={known.map((k) => `${x(k.x)},${y(k.y)}`).join(' ')}
        fill="none"
        stroke="var(--high)"
        strokeWidth={1.6}
      />
      <circle cx={x(last.x)} cy={y(last.y)} r={2.4} fill="var(--high)" />
    </svg>
  );
}
