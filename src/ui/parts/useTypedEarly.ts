/** What was typed into a field of the server's page before React listened to it: given to the form once it does. */
import { type RefObject, useEffect, useEffectEvent, useRef } from 'react';

/** @param value what the field is given; @returns the ref of its input or textarea */
export function useTypedEarly<E extends HTMLInputElement | HTMLTextAreaElement>(value = ''): RefObject<E | null> {
  const field = useRef<E>(null);
  const deliver = useEffectEvent((node: E) => {
    const typed = node.value;
    if (typed === value) return;
    // React compares with what it saw last: first the old text through its own property, then the typed one beside it.
    node.value = value;
    Object.getOwnPropertyDescriptor(Object.getPrototypeOf(node), 'value')?.set?.call(node, typed);
    node.dispatchEvent(new Event('input', { bubbles: true }));
  });
  useEffect(() => {
    if (field.current) deliver(field.current);
  }, []);
  return field;
}
