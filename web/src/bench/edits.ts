import type { Form, FormItem, FormSection } from "../api/client";
import { itemsOf } from "../model/items";

/** A change of a form: it answers the changed form, and does nothing where what it is about is gone. */
export type Edit = (form: Form) => Form;

type Token = { section: FormSection } | { item: FormItem };

/** The outline as one list: each section, then its items. */
function tokens(form: Form): Token[] {
  return form.sections.flatMap((section) => [{ section }, ...section.items.map((item) => ({ item }))]);
}

function ofTokens(form: Form, all: Token[]): Form {
  const sections: FormSection[] = [];
  for (const token of all) {
    if ("section" in token) sections.push({ ...token.section, items: [] });
    else sections.at(-1)?.items.push(token.item);
  }
  return { ...form, sections };
}

const mapItems = (form: Form, change: (item: FormItem) => FormItem): Form => ({
  ...form,
  sections: form.sections.map((section) => ({ ...section, items: section.items.map(change) })),
});

/** Those items changed so; what an item of its kind does not have is left alone. */
export const change =
  (ids: string[], patch: Partial<Record<string, unknown>>): Edit =>
  (form) =>
    mapItems(form, (item) => {
      if (!ids.includes(item.id)) return item;
      const fits = Object.entries(patch).filter(([name]) => item.kind === "field" || name in item);
      return { ...item, ...Object.fromEntries(fits) } as FormItem;
    });

export const remove =
  (ids: string[]): Edit =>
  (form) => ({
    ...form,
    sections: form.sections.map((section) => ({
      ...section,
      items: section.items.filter((item) => !ids.includes(item.id)),
    })),
  });

/** Those items one place up or down the outline, across the ends of sections too. */
export const move =
  (ids: string[], by: -1 | 1): Edit =>
  (form) => {
    const all = tokens(form);
    const chosen = (token: Token | undefined) => !!token && "item" in token && ids.includes(token.item.id);
    const order = all.map((_, at) => at);
    if (by === 1) order.reverse();
    for (const at of order) {
      const token = all[at];
      const other = all[at + by];
      // The first section heads everything, so nothing goes before it.
      if (!token || !other || !chosen(token) || chosen(other) || at + by === 0) continue;
      all[at] = other;
      all[at + by] = token;
    }
    return ofTokens(form, all);
  };

/** Those items before or after another one. */
export const moveTo =
  (ids: string[], target: string, after: boolean): Edit =>
  (form) => {
    if (ids.includes(target)) return form;
    const moved = itemsOf(form).filter((item) => ids.includes(item.id));
    return insert(moved, target, after)(remove(ids)(form));
  };

/** Items after another one or before it; at the end where there is none. */
export const insert =
  (items: FormItem[], target: string | undefined, after = true): Edit =>
  (form) => {
    const sections = form.sections.length > 0 ? form.sections : [{ title: "", columns: 4, items: [] }];
    const there = sections.findIndex((section) => section.items.some((item) => item.id === target));
    const at = there < 0 ? sections.length - 1 : there;
    return {
      ...form,
      sections: sections.map((section, n) => {
        if (n !== at) return section;
        const place = section.items.findIndex((item) => item.id === target);
        const put = place < 0 ? section.items.length : place + (after ? 1 : 0);
        return { ...section, items: [...section.items.slice(0, put), ...items, ...section.items.slice(put)] };
      }),
    };
  };

/** A section that begins with that item; at the end, and empty, where there is none. */
export const split =
  (title: string, first: string | undefined): Edit =>
  (form) => {
    const all = tokens(form);
    const at = all.findIndex((token) => "item" in token && token.item.id === first);
    const columns = form.sections.at(-1)?.columns ?? 4;
    all.splice(at < 0 ? all.length : at, 0, { section: { title, columns, items: [] } });
    return ofTokens(form, all);
  };

export const changeSection =
  (at: number, patch: Partial<FormSection>): Edit =>
  (form) => ({
    ...form,
    sections: form.sections.map((section, n) => (n === at ? { ...section, ...patch } : section)),
  });

/** So many fields a line: each gets an even share of it. */
export const columns =
  (at: number, count: number): Edit =>
  (form) => {
    const items = form.sections[at]?.items.map((item) =>
      item.kind === "field" && item.widget !== "area" ? { ...item, width: 12 / count } : item,
    );
    return items ? changeSection(at, { columns: count, items })(form) : form;
  };

/** Takes a section's heading away: its items join those before it. */
export const join =
  (at: number): Edit =>
  (form) => {
    const gone = form.sections[at];
    if (!gone || at === 0) return changeSection(at, { title: "" })(form);
    const sections = form.sections.filter((_, n) => n !== at);
    const before = sections[at - 1] as FormSection;
    sections[at - 1] = { ...before, items: [...before.items, ...gone.items] };
    return { ...form, sections };
  };

/** An id that no item of the form has. */
export function freeId(form: Form, base: string): string {
  const taken = new Set(itemsOf(form).map((item) => item.id));
  for (let n = 1; ; n++) {
    const id = n === 1 ? base : `${base}_${n}`;
    if (!taken.has(id)) return id;
  }
}

/** The items under ids that are free in the form. */
export function renamed(form: Form, items: FormItem[]): FormItem[] {
  let into = form;
  return items.map((item) => {
    const fresh = { ...item, id: freeId(into, item.id) };
    into = insert([fresh], undefined)(into);
    return fresh;
  });
}
