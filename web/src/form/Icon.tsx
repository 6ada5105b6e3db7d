import {
  ArrowRightToLine,
  Check,
  ChevronLeft,
  ChevronRight,
  ChevronsLeft,
  ChevronsRight,
  Eraser,
  type LucideIcon,
  Plus,
  Search,
  Trash2,
  Undo2,
  X,
} from "lucide-react";

const ICONS: Record<string, LucideIcon> = {
  save: Check,
  clear: Eraser,
  new: Plus,
  first: ChevronsLeft,
  previous: ChevronLeft,
  next: ChevronRight,
  last: ChevronsRight,
  find: Search,
  delete: Trash2,
  "put-back": Undo2,
  close: X,
  open: ArrowRightToLine,
};

/** The sign of what a button does. */
export function Icon({ name }: { name: string }) {
  const Sign = ICONS[name];
  return Sign ? <Sign size={16} aria-hidden="true" /> : null;
}
