'use client';
/** Single-key commands: they work wherever nobody is typing. */
import { useEffect, useRef } from 'react';

/** Inputs that take no text. */
const SILENT = ['range', 'checkbox', 'radio', 'button', 'file'];

function isTyping(target: EventTarget | null): boolean {
  if (target instanceof HTMLInputElement) return !SILENT.includes(target.type);
  return target instanceof HTMLElement && (target.isContentEditable || ['TEXTAREA', 'SELECT'].includes(target.tagName));
}

/** @param commands key (as in KeyboardEvent.key, lower case) to what it does */
export function useKeys(commands: Readonly<Record<string, () => void>>): void {
  const latest = useRef(commands);
  latest.current = commands;
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented || isTyping(event.target)) return;
      const isCovered = document.querySelector('[role="dialog"], [role="listbox"]') !== null;
      const command = latest.current[event.key.toLowerCase()];
      if (!command || isCovered) return;
      event.preventDefault();
      command();
    };
    document.addEventListener('keydown', pressed);
    return () => document.removeEventListener('keydown', pressed);
  }, []);
}
