import { Start } from '@/start/Start';

export default function Page() {
  return <Start />;
}
