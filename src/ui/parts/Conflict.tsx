'use client';
import { createRoot } from 'react-dom/client';
import { differences } from '@/core/forms/differences';
import { Button } from './Button';
import SheetDialog from './SheetDialog';

interface Props {
  readonly mine: object;
  readonly theirs: object;
  readonly onMine: () => void;
  readonly onClose: () => void;
}

/** Both versions of what two people edited at once; neither is lost before somebody chooses. */
function Conflict({ mine, theirs, onMine, onClose }: Props) {
  return (
    <SheetDialog
      wide
      onOpenChange={(open) => !open && onClose()}
      title="This was changed while you were editing it"
      description="Nothing was saved yet. Choose which version to keep, or close this to go on editing yours."
    >
      <table className="w-full text-left align-top">
        <thead>
          <tr>
            {['What', 'Yours', 'Saved meanwhile'].map((head) => (
              <th key={head} scope="col" className="border-line border-b py-1 pr-3 font-semibold">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {differences(mine, theirs).map((d) => (
            <tr key={d.place} className="border-line border-b align-top">
              <th scope="row" className="py-1 pr-3 font-normal">
                {d.place}
              </th>
              <td className="max-w-80 py-1 pr-3 break-words whitespace-pre-wrap">{d.mine}</td>
              <td className="max-w-80 py-1 break-words whitespace-pre-wrap">{d.theirs}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="mt-4 flex flex-wrap gap-2">
        <Button
          look="main"
          onClick={() => {
            onClose();
            onMine();
          }}
        >
          Save mine
        </Button>
        <Button onClick={() => location.reload()}>Use the saved version</Button>
        <Button look="quiet" onClick={onClose}>
          Go on editing
        </Button>
      </div>
    </SheetDialog>
  );
}

/** Shows both versions over whatever page. */
export function showConflict(of: Omit<Props, 'onClose'>): void {
  const place = document.body.appendChild(document.createElement('div'));
  const root = createRoot(place);
  root.render(
    <Conflict
      {...of}
      onClose={() => {
        root.unmount();
        place.remove();
      }}
    />,
  );
}
