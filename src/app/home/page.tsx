import type { Metadata } from 'next';
import { studentHome } from '@/server/look/student';
import { Home } from '@/ui/student/Home';
import { page } from '../page-guard';

export const metadata: Metadata = { title: 'Home' };

export default async function HomePage() {
  return <Home home={await page(studentHome)} />;
}
