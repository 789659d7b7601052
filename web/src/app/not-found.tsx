import Link from 'next/link';

/** What stands at an address that leads nowhere. */
export default function NotFound() {
  return (
    <main className="mx-auto max-w-[560px] px-8 pt-24">
      <h1 className="text-xl font-semibold">There is nothing at this address</h1>
      <p className="mt-2 text-quiet">
        A report’s address is “/report/”, its letters, and a step: data, numbers, figures or page. Reports are kept in
        the browser they were made in; another browser opens them from their file.
      </p>
      <Link href="/" className="mt-5 inline-block font-semibold underline decoration-2 underline-offset-4">
        To all reports
      </Link>
    </main>
  );
}
