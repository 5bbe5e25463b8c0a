/** What is wrong with what is being typed, below its field. */
export function Wrong({ id, children }: { readonly id: string; readonly children: string | null }) {
  return children == null ? null : (
    <span id={id} role="alert" className="text-plum block text-xs">
      {children}
    </span>
  );
}
