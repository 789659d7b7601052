import { pathOf } from '@/store/steps';
import { redirect } from 'next/navigation';

/** A report without a step is its figures. */
export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  redirect(pathOf(decodeURIComponent((await params).id), 'figures'));
}
