import { redirect } from 'next/navigation';

/** Where the thresholds stood before they stood with the rules. */
export default async function IndicatorsPage({ params }: { params: Promise<{ code: string }> }) {
  redirect(`/c/${encodeURIComponent((await params).code)}/rules/flags`);
}
