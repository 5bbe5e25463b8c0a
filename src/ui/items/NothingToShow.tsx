import Link from 'next/link';
import { buttonClasses } from '../parts/Button';
import { ViewHead } from '../parts/Panel';

/** Where an item is asked for that has no answers. */
export function NothingToShow({ code }: { readonly code: string }) {
  return (
    <>
      <ViewHead title="There is no such item to show">
        It may have been dropped, or nobody has answered it.
      </ViewHead>
      <Link href={`/c/${code}/items`} className={buttonClasses('main')}>
        All items
      </Link>
    </>
  );
}
