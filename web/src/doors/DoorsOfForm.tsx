import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Plus } from "lucide-react";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { answered, api, type Form } from "../api/client";
import { queryKeyOf } from "../api/keys";
import { workingCopyQuery } from "../api/queries";
import { Trouble } from "../ui/Trouble";
import { DoorPicture } from "./DoorPicture";
import { DoorSettings } from "./DoorSettings";
import { doorsOfQuery, useDoor } from "./useDoor";
import { inOneLine } from "./words";

/** The doors of a form, made and changed beside a living picture of what is behind them. */
export function DoorsOfForm() {
  const { form: id = "", door } = useParams();
  const copy = useQuery(workingCopyQuery(id));
  const doors = useQuery(doorsOfQuery(id));
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [trouble, setTrouble] = useState<unknown>();
  const form = copy.data?.form;
  const chosen = door ?? doors.data?.[1]?.id ?? doors.data?.[0]?.id;
  const another = async () => {
    try {
      const taken = new Set(doors.data?.map((each) => each.id));
      let n = 1;
      while (taken.has(`${id}-door-${n}`)) n++;
      const made = await answered(
        api.POST("/api/forms/{form}/doors", {
          params: { path: { form: id } },
          body: { id: `${id}-door-${n}`, title: "Another door", may: ["add"] },
        }),
      );
      await queries.invalidateQueries({ queryKey: queryKeyOf("doors-of", id) });
      navigate(`/forms/${id}/doors/${made.id}`);
    } catch (e) {
      setTrouble(e);
    }
  };
  return (
    <main className="place">
      <header className="top">
        <h1>Doors of {form?.title ?? id}</h1>
        {form && (
          <span className="chip">
            writes to <span className="font-mono">{form.table}</span>
          </span>
        )}
        <span className="flex-1" />
        <Link className="btn" to={`/d/${id}/sheet`}>
          Empty sheet
        </Link>
        <Link className="btn" to={`/bench/${id}`}>
          Back to the Bench
        </Link>
        {chosen && (
          <Link className="btn go" to={`/forms/${id}/doors/${chosen}/try`}>
            Try this door
          </Link>
        )}
      </header>
      <div className="doors-of">
        <nav aria-label="Doors">
          <Trouble error={trouble ?? doors.error ?? copy.error} />
          {doors.data?.map((each) => (
            <Link
              key={each.id}
              to={`/forms/${id}/doors/${each.id}`}
              className={`${each.id === chosen ? "on" : ""} ${each.who.link ? "link" : ""}`}
              aria-current={each.id === chosen ? "page" : undefined}
            >
              <b>{each.title}</b>
              <span>{inOneLine(each)}</span>
              {each.frays.length > 0 && <span className="text-weld">{each.frays[0]}</span>}
            </Link>
          ))}
          <button type="button" className="btn" onClick={another}>
            <Plus size={16} aria-hidden="true" /> Another door
          </button>
        </nav>
        {form && chosen && <Chosen key={chosen} form={form} id={chosen} />}
      </div>
    </main>
  );
}

function Chosen({ form, id }: { form: Form; id: string }) {
  const doings = useDoor(form.id, id);
  const navigate = useNavigate();
  const { door } = doings;
  if (!door) return <Trouble error={doings.trouble} />;
  const remove = async () => {
    await doings.remove();
    navigate(`/forms/${form.id}/doors`);
  };
  return (
    <>
      <div className="overflow-auto p-6">
        <Trouble error={doings.trouble} />
        {door.frays.map((fray) => (
          <p key={fray} className="fray-line">
            {fray}
          </p>
        ))}
        {door.everything ? (
          <p className="max-w-prose text-soft">
            The door that every form is born with: all of it, for Builders. It stays as it is. Others come in
            by doors of their own.
          </p>
        ) : (
          <>
            <DoorSettings form={form} door={door} doings={doings} />
            <button type="button" className="btn quiet mt-6" onClick={remove}>
              Delete this door
            </button>
          </>
        )}
      </div>
      <DoorPicture form={form} door={door} />
    </>
  );
}
