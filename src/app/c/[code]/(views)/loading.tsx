/**
 * Shown while a view is being made: the shape of a head and a table, without movement. Only for views that are always
 * there: once this is sent, so is the status of the answer, and what does not exist could not say so.
 */
export default function Loading() {
  return (
    <div role="status" aria-label="Loading" className="space-y-3">
      <div className="bg-line h-8 w-2/5 rounded" />
      <div className="bg-line/70 h-4 w-1/4 rounded" />
      <div className="border-line bg-panel h-24 rounded-lg border" />
      <div className="border-line bg-panel h-96 rounded-lg border" />
    </div>
  );
}
