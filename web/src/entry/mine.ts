let whose = "";

/** From now on, what the browser keeps is that person's. */
export function keepFor(person: string) {
  whose = person;
}

/** The beginning of the names under which the browser keeps something of the person who is signed in; another never sees it. */
export const mine = (what: string) => `weft.${what}.${whose} `;
