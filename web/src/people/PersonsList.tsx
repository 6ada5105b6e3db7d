import { useInfiniteQuery, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answered, api, type Schemas } from "../api/client";
import { queryKeyOf } from "../api/keys";
import { Cover } from "../ui/Cover";
import { Trouble } from "../ui/Trouble";
import { groupsQuery, peopleQuery } from "./queries";

type Person = Schemas["PersonJson"];

/** Persons: who they are, what groups they are in; invited, stopped, taken away. */
export function PersonsList() {
  const people = useInfiniteQuery(peopleQuery);
  const [chosen, setChosen] = useState<Person>();
  const [inviting, setInviting] = useState(false);
  const [address, setAddress] = useState<{ of: string; address: string }>();
  return (
    <div className="grid max-w-5xl gap-4">
      <Trouble error={people.error} />
      {address && (
        <section className="box grid gap-2 p-4" aria-label="Invitation">
          <p>
            <b>{address.of}</b> chooses a password here, once, within seven days:
          </p>
          <code className="entry flex! items-center font-mono text-[13.5px]">{address.address}</code>
          <p className="text-soft">
            It is shown only now, and was sent to their e-mail address where a mail server is set.
          </p>
          <button
            type="button"
            className="btn small justify-self-start"
            onClick={() => navigator.clipboard.writeText(address.address)}
          >
            Copy the address
          </button>
        </section>
      )}
      <button type="button" className="btn go justify-self-start" onClick={() => setInviting(true)}>
        Invite a person
      </button>
      <table className="box listing">
        <thead>
          <tr>
            <th scope="col">Person</th>
            <th scope="col">Signs in as</th>
            <th scope="col">Groups</th>
            <th scope="col">State</th>
          </tr>
        </thead>
        <tbody>
          {people.data?.pages.flat().map((person) => (
            <tr key={person.id}>
              <td>
                <button type="button" className="link" onClick={() => setChosen(person)}>
                  {person.title}
                </button>
              </td>
              <td className="font-mono">{person.name}</td>
              <td>{person.groups.join(", ") || "none"}</td>
              <td className={person.stopped ? "text-madder" : person.signsIn ? "" : "text-weld"}>
                {person.stopped ? "stopped" : person.signsIn ? "can sign in" : "invited"}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {people.hasNextPage && (
        <button type="button" className="btn justify-self-start" onClick={() => people.fetchNextPage()}>
          More
        </button>
      )}
      {inviting && (
        <PersonForm
          close={() => setInviting(false)}
          done={(made) => made.invitation && setAddress({ of: made.title, address: made.invitation })}
        />
      )}
      {chosen && (
        <PersonForm
          person={chosen}
          close={() => setChosen(undefined)}
          done={() => {}}
          invited={(to) => setAddress({ of: chosen.title, address: to })}
        />
      )}
    </div>
  );
}

interface FormProps {
  person?: Person;
  close: () => void;
  done: (person: Person) => void;
  invited?: (address: string) => void;
}

function PersonForm({ person, close, done, invited }: FormProps) {
  const groups = useQuery(groupsQuery).data ?? [];
  const queries = useQueryClient();
  const [title, setTitle] = useState(person?.title ?? "");
  const [name, setName] = useState(person?.name ?? "");
  const [email, setEmail] = useState(person?.email ?? "");
  const [inGroups, setInGroups] = useState<string[]>(person?.groups ?? []);
  const [trouble, setTrouble] = useState<unknown>();
  const path = { id: person?.id ?? 0 };
  const doing = async (what: () => Promise<unknown>) => {
    try {
      await what();
      queries.invalidateQueries({ queryKey: queryKeyOf("people") });
      queries.invalidateQueries({ queryKey: queryKeyOf("groups") });
      close();
    } catch (e) {
      setTrouble(e);
    }
  };
  const keep = () =>
    doing(async () => {
      const body = { name, title, email, groups: inGroups };
      done(
        await answered(
          person
            ? api.PUT("/api/people/{id}", { params: { path }, body })
            : api.POST("/api/people", { body: { ...body, email: email || undefined } }),
        ),
      );
    });
  const stop = (stopped: boolean) =>
    doing(() => answered(api.PUT("/api/people/{id}", { params: { path }, body: { stopped } })));
  const remove = () => doing(() => answered(api.DELETE("/api/people/{id}", { params: { path } })));
  const invite = () =>
    doing(async () => {
      const { address } = await answered(api.POST("/api/people/{id}/invitation", { params: { path } }));
      invited?.(address);
    });
  return (
    <Cover name={person ? person.title : "Invite a person"} close={close}>
      <form
        className="grid gap-3 p-5"
        onSubmit={(e) => {
          e.preventDefault();
          keep();
        }}
      >
        <h2>{person ? person.title : "Invite a person"}</h2>
        <Trouble error={trouble} />
        <label className="grid gap-1">
          <span className="font-semibold">Name, as others read it</span>
          {/* biome-ignore lint/a11y/noAutofocus: it is where one begins */}
          <input className="entry" autoFocus value={title} onChange={(e) => setTitle(e.target.value)} />
        </label>
        <label className="grid gap-1">
          <span className="font-semibold">Name to sign in with</span>
          <input
            className="entry font-mono"
            autoCapitalize="none"
            readOnly={!!person}
            value={name}
            onChange={(e) => setName(e.target.value)}
          />
        </label>
        <label className="grid gap-1">
          <span className="font-semibold">E-mail</span>
          <input className="entry" type="email" value={email} onChange={(e) => setEmail(e.target.value)} />
        </label>
        <fieldset className="grid gap-1">
          <legend className="font-semibold">Groups</legend>
          {groups.map((group) => (
            <label key={group.name} className="tick">
              <input
                type="checkbox"
                checked={inGroups.includes(group.name)}
                onChange={(e) =>
                  setInGroups((now) =>
                    e.target.checked ? [...now, group.name] : now.filter((each) => each !== group.name),
                  )
                }
              />
              {group.title}
            </label>
          ))}
        </fieldset>
        <div className="flex flex-wrap gap-2">
          <button type="submit" className="btn go">
            {person ? "Save" : "Invite"} <kbd>Enter</kbd>
          </button>
          {person && (
            <>
              <button type="button" className="btn" onClick={invite}>
                Invite again
              </button>
              <button type="button" className="btn" onClick={() => stop(!person.stopped)}>
                {person.stopped ? "Unblock sign-in" : "Block sign-in"}
              </button>
              <button type="button" className="btn quiet" onClick={remove}>
                Delete
              </button>
            </>
          )}
        </div>
      </form>
    </Cover>
  );
}
