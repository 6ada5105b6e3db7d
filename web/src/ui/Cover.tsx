import type { ReactNode } from "react";
import { Dialog, Modal, ModalOverlay } from "react-aria-components";

interface Props {
  name: string;
  close: () => void;
  /** Whether it needs room for things side by side. */
  wide?: boolean;
  children: ReactNode;
}

/** A dialog over the place; Esc or a press beside it closes it, and focus goes back to where it was. */
export function Cover({ name, close, wide, children }: Props) {
  return (
    <ModalOverlay className="cover" isOpen isDismissable onOpenChange={(open) => !open && close()}>
      <Modal className={`box ${wide ? "wide" : ""}`}>
        <Dialog aria-label={name} className="outline-none">
          {children}
        </Dialog>
      </Modal>
    </ModalOverlay>
  );
}
