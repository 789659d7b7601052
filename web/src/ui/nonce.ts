import { setNonce } from 'get-nonce';

/** Lets what holds the page still behind a dialog add its style under the page's security policy. */
if (typeof document !== 'undefined') {
  const nonce = document.querySelector<HTMLScriptElement>('script[nonce]')?.nonce;
  if (nonce) setNonce(nonce);
}
