import type { ReactNode } from "react";
import { Dialog, Modal, ModalOverlay } from "react-aria-components";

/** A dialog over the place; Esc or a press beside it closes it, and focus goes back to where it was. */
export function Cover({ name, close, children }: { name: string; close: () => void; children: ReactNode }) {
  return (
    <ModalOverlay className="cover" isOpen isDismissable onOpenChange={(open) => !open && close()}>
      <Modal className="box">
        <Dialog aria-label={name} className="outline-none">
          {children}
        </Dialog>
      </Modal>
    </ModalOverlay>
  );
}
