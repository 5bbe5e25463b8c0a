import Link from 'next/link';
import { buttonClasses } from '@/ui/parts/Button';
import { Nothing } from '@/ui/parts/Panel';

export default function NotFound() {
  return (
    <main>
      <Nothing title="There is nothing here for you">
        <p>This page does not exist, or it is not yours to see.</p>
        <Link href="/" className={buttonClasses('main')}>
          Go to your start page
        </Link>
      </Nothing>
    </main>
  );
}
