'use client';
/** A sheet over the page for one task; Escape closes it. */
import type { ReactNode } from 'react';
import { Dialog as AriaDialog, Heading, Modal, ModalOverlay } from 'react-aria-components';
import styled from 'styled-components';

const Overlay = styled(ModalOverlay)`
  position: fixed; inset: 0; background: rgb(0 0 0 / 0.45); display: grid; place-items: center; padding: 20px; z-index: 10;`;
const Sheet = styled(Modal)`
  background: var(--sheet); border: 1px solid var(--line); border-radius: 4px; width: min(560px, 100%); max-height: 90vh; overflow: auto;
  padding: 18px 22px 20px; section { outline: none; }
  h2 { font-size: 18px; }`;

export function Dialog({ title, isOpen, onClose, children }: { title: string; isOpen: boolean; onClose: () => void; children: ReactNode }) {
  return (
    <Overlay isOpen={isOpen} onOpenChange={(open) => !open && onClose()} isDismissable>
      <Sheet>
        <AriaDialog>
          <Heading slot="title" level={2}>
            {title}
          </Heading>
          {children}
        </AriaDialog>
      </Sheet>
    </Overlay>
  );
}
