import { useInfiniteQuery, useQueryClient } from "@tanstack/react-query";
import { answered, api, type Schemas } from "../api/client";
import { queryKeyOf } from "../api/keys";
import { Trouble } from "../ui/Trouble";

type Message = Schemas["MessageJson"];

const LOOK_AFTER = 2_000;

/** The outbox: what entries have sent, what waits, and what could not be sent. */
export function MessagesPage() {
  const queries = useQueryClient();
  const pages = useInfiniteQuery({
    queryKey: queryKeyOf("messages"),
    initialPageParam: 0,
    queryFn: ({ pageParam }) =>
      answered(api.GET("/api/messages", { params: { query: { before: pageParam } } })),
    getNextPageParam: (page) => page.next ?? undefined,
    refetchInterval: LOOK_AFTER,
  });
  const [first] = pages.data?.pages ?? [];
  const messages = pages.data?.pages.flatMap((page) => page.messages) ?? [];
  const again = async (message: Message) => {
    await answered(api.POST("/api/messages/{id}/again", { params: { path: { id: message.id } } })).catch(
      () => {},
    );
    queries.invalidateQueries({ queryKey: queryKeyOf("messages") });
  };
  return (
    <main className="place">
      <header className="top">
        <h1>Messages</h1>
        {first?.standIn && <span className="chip changes">to the stand-in: no mail server is set</span>}
      </header>
      <div className="overflow-auto p-5">
        <Trouble error={pages.error} />
        {first && messages.length === 0 && (
          <p className="text-soft">
            No entry has sent a message yet. A form sends them by its steps, set under Rules on the Bench.
          </p>
        )}
        {messages.length > 0 && (
          <table className="box w-full max-w-6xl border-separate border-spacing-0 text-left">
            <thead>
              <tr className="text-[13.5px] text-soft">
                {["Written", "To", "Message", "By", "State"].map((heading) => (
                  <th key={heading} scope="col" className="border-b border-line px-4 py-2 font-semibold">
                    {heading}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {messages.map((message) => (
                <tr
                  key={message.id}
                  className="align-top [&>td]:border-b [&>td]:border-line [&>td]:px-4 [&>td]:py-2"
                >
                  <td className="whitespace-nowrap">{at(message.writtenAt)}</td>
                  <td>{message.to}</td>
                  <td>
                    <details>
                      <summary>{message.subject}</summary>
                      <p className="whitespace-pre-wrap text-soft">{message.text}</p>
                    </details>
                  </td>
                  <td>{message.by}</td>
                  <td>
                    {message.state === "sent" ? (
                      <span className="text-woad">sent {at(message.sentAt ?? "")}</span>
                    ) : message.state === "taken-back" ? (
                      <span className="text-soft">not sent: its entry was taken back</span>
                    ) : (
                      <>
                        <span className={message.state === "given-up" ? "text-madder" : "text-weld"}>
                          {message.state === "given-up" ? "failed" : "waiting"}
                        </span>{" "}
                        {message.failure && <span className="text-soft">{message.failure}</span>}{" "}
                        {message.failure && (
                          <button type="button" className="btn small" onClick={() => again(message)}>
                            Try again
                          </button>
                        )}
                      </>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        {pages.hasNextPage && (
          <button type="button" className="btn mt-3" onClick={() => pages.fetchNextPage()}>
            Earlier ones
          </button>
        )}
      </div>
    </main>
  );
}

const at = (time: string) =>
  new Date(time).toLocaleString("en-GB", {
    day: "numeric",
    month: "short",
    hour: "2-digit",
    minute: "2-digit",
  });
