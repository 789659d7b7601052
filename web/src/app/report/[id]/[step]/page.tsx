import { Office } from '@/office/Office';
import { isStep } from '@/office/steps';
import { notFound } from 'next/navigation';

export default async function Page({ params }: { params: Promise<{ id: string; step: string }> }) {
  const { id, step } = await params;
  if (!isStep(step)) notFound();
  return <Office id={id} step={step} />;
}
