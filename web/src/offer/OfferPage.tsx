import { useState } from "react";
import { useParams } from "react-router-dom";
import { asRefused, type OfferSeen, type Refused } from "../api/client";
import { useOffer } from "../data/useOffers";
import { Line } from "../parts/fields";
import { Opened } from "../parts/Opened";
import { RefusalNote } from "../parts/RefusalNote";
import { Wordmark } from "../parts/Wordmark";

/** A quote for whoever has its link, signed in or not: what it comes to, what is in it, and yes or no. */
export function OfferPage() {
  const { token = "" } = useParams();
  const offer = useOffer(token);
  return (
    <main className="mx-auto max-w-2xl p-4">
      <Wordmark className="text-2xl" />
      <Opened query={offer.query}>{(seen) => <Offered seen={seen} say={offer.say} />}</Opened>
    </main>
  );
}

function Offered({ seen, say }: { seen: OfferSeen; say: ReturnType<typeof useOffer>["say"] }) {
  const { offered, answer } = seen;
  const { quote } = offered;
  const [option, setOption] = useState("");
  const chosen = quote.options.find((each) => each.name === (answer?.option ?? option));
  const sums = chosen ?? quote;
  return (
    <>
      <p className="pt-4 text-lg">
        <b>{offered.firm}</b> offers its work on
      </p>
      <h1 className="text-2xl font-bold">{offered.job}</h1>
      <p>{offered.address}</p>
      <section className="my-4 border-2 border-accent bg-base-200 p-4">
        <p className="text-5xl font-bold tabular-nums" data-offer-total={sums.total}>
          {sums.total}
        </p>
        <p>
          {sums.net} and {sums.tax} tax. {answer ? "" : `It stands until ${offered.until}.`}
        </p>
      </section>
      {quote.options.length > 0 && !answer && (
        <fieldset className="pb-3">
          <legend className="pb-1 font-bold">To choose from</legend>
          {[{ name: "", what: "as it is above", total: quote.total }, ...quote.options].map((each) => (
            <label key={each.name} className="flex min-h-11 items-center gap-3 border-b border-base-300 py-1">
              <input
                type="radio"
                className="radio"
                name="Option"
                checked={option === each.name}
                onChange={() => setOption(each.name)}
              />
              <span className="grow">
                <b>{each.name || "The quote"}</b> {each.what}
              </span>
              <b className="tabular-nums">{each.total}</b>
            </label>
          ))}
        </fieldset>
      )}
      {answer ? (
        <p className="border-l-4 border-success bg-base-200 px-3 py-3 text-lg" data-offer-answer={answer.accepted}>
          <b>{answer.accepted ? "Accepted" : "Declined"}</b> by {answer.name}, {answer.at.slice(0, 10)}
          {answer.option && `, with: ${answer.option}`}.
        </p>
      ) : (
        <Answer say={say} option={option} />
      )}
      <h2 className="pt-5 text-lg font-bold">What it is made of</h2>
      <table className="w-full border-collapse">
        <tbody>
          {quote.lines.map((line) => (
            <tr key={line.key} className="border-b border-base-300">
              <td className="py-1">{line.what}</td>
              <td className="py-1 text-right tabular-nums">
                {Number(line.count)} {line.unit}
              </td>
              <td className="w-24 py-1 text-right font-semibold tabular-nums">{line.net}</td>
            </tr>
          ))}
          {Number(quote.variations) !== 0 && (
            <tr>
              <td className="py-1">Agreed since</td>
              <td />
              <td className="py-1 text-right font-semibold tabular-nums">{quote.variations}</td>
            </tr>
          )}
        </tbody>
      </table>
      {offered.excluded.length > 0 && (
        <>
          <h2 className="pt-4 text-lg font-bold">Not in it</h2>
          <ul className="list-disc pl-6">
            {offered.excluded.map((each) => (
              <li key={each}>{each}</li>
            ))}
          </ul>
        </>
      )}
      {offered.note && <p className="pt-3">{offered.note}</p>}
    </>
  );
}

function Answer({ say, option }: { say: ReturnType<typeof useOffer>["say"]; option: string }) {
  const [name, setName] = useState("");
  const [note, setNote] = useState("");
  const [refused, setRefused] = useState<Refused>();
  const send = (accepted: boolean) => {
    setRefused(undefined);
    say({ accepted, name: name.trim(), option: accepted ? option : "", note }).catch((error: unknown) =>
      setRefused(asRefused(error)),
    );
  };
  return (
    <form className="grid gap-2" onSubmit={(event) => event.preventDefault()}>
      <Line label="Your name" value={name} onValue={setName} />
      <Line label="A word to the firm" most={400} value={note} onValue={setNote} />
      {refused && <RefusalNote refused={refused} />}
      <p className="flex flex-wrap gap-3">
        <button className="btn btn-primary btn-lg" type="button" disabled={!name.trim()} onClick={() => send(true)}>
          Yes, do it
        </button>
        <button className="btn btn-lg" type="button" disabled={!name.trim()} onClick={() => send(false)}>
          No
        </button>
      </p>
    </form>
  );
}
