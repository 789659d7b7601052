import { Shell } from '@/shell/Shell';
import { isStep } from '@/store/steps';
import { notFound } from 'next/navigation';

export default async function Page({ params }: { params: Promise<{ id: string; step: string }> }) {
  const { id, step } = await params;
  if (!isStep(step)) notFound();
  return <Shell id={id} step={step} />;
}
