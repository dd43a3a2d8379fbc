/** The front door leads to the Bench. */
import { redirect } from 'next/navigation';

export default function Page(): never {
  redirect('/bench');
}
