import { Shell } from '@/shell/Shell';
import { isStep } from '@/store/steps';
import { notFound } from 'next/navigation';

/** A step of the work on a report; of the figures one may be named. */
export default async function Page({ params }: { params: Promise<{ id: string; step: string; of?: string[] }> }) {
  const { id, step, of = [] } = await params;
  if (!isStep(step) || of.length > (step === 'figures' ? 1 : 0)) notFound();
  return <Shell id={id} step={step} />;
}
