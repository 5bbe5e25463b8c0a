/** The shape of a head and a table while a view is being made, without movement. */
export function Loading() {
  return (
    <div role="status" aria-label="Loading" className="space-y-3">
      <div className="bg-line h-8 w-2/5 rounded" />
      <div className="bg-line/70 h-4 w-1/4 rounded" />
      <div className="border-line bg-panel h-24 rounded-lg border" />
      <div className="border-line bg-panel h-96 rounded-lg border" />
    </div>
  );
}
