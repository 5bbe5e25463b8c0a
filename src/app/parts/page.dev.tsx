import { Showcase } from '@/ui/showcase/Showcase';

/** Every part of the interface in both themes; in the development server only. */
export default function PartsPage() {
  return <Showcase />;
}
