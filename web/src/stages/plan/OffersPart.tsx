import { useState } from "react";
import { asRefused, type QuoteTerms, type Refused } from "../../api/client";
import { useOffers } from "../../data/useOffers";
import type { OfTerms } from "../../data/useQuote";
import { Line } from "../../parts/fields";
import { RefusalNote } from "../../parts/RefusalNote";

const STATE = { open: "not answered yet", accepted: "ACCEPTED", declined: "declined", ended: "ended" } as const;

/** Offering the quote to the customer by a link that ends, and what was said to it. */
export function OffersPart({ jobId, isWhole }: { jobId: string; isWhole: boolean }) {
  const offers = useOffers(jobId);
  const [email, setEmail] = useState("");
  const [made, setMade] = useState<{ path: string; mailed: boolean }>();
  const [refused, setRefused] = useState<Refused>();
  return (
    <fieldset className="pt-3">
      <legend className="font-semibold">Offered to</legend>
      {(offers.query.data ?? []).map((each) => (
        <p key={each.id} className="border-b border-base-300 py-1" data-offer-state={each.state}>
          <b>{each.total}</b> to {each.email}, until {each.until}: <b>{STATE[each.state]}</b>
          {each.answer && (
            <span className="block text-sm">
              {each.answer.name}, {each.answer.at.slice(0, 10)}
              {each.answer.option && `, with: ${each.answer.option}`}
              {each.answer.note && `: ${each.answer.note}`}
            </span>
          )}
        </p>
      ))}
      {refused && <RefusalNote refused={refused} onClose={() => setRefused(undefined)} />}
      {made && (
        <p className="py-1 text-sm" role="status">
          {made.mailed ? "Sent. " : "No mail server took it: hand the link on. "}
          <a className="link break-all" href={made.path} data-offer-link>
            {location.origin + made.path}
          </a>
        </p>
      )}
      <form
        className="flex items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          setRefused(undefined);
          offers
            .make(email.trim())
            .then(setMade)
            .catch((error: unknown) => setRefused(asRefused(error)));
        }}
      >
        <span className="grow">
          <Line label="E-mail of the customer" name="Offer to" value={email} onValue={setEmail} />
        </span>
        <button className="btn btn-primary" disabled={!isWhole || !email.includes("@")}>
          Offer it
        </button>
      </form>
      {!isWhole && <p className="quiet text-sm">An estimate is not offered: see what is open above.</p>}
    </fieldset>
  );
}

interface OptionsProps {
  terms: QuoteTerms;
  totals: readonly { name: string; total: string | number }[];
  say: OfTerms;
}

/** What the customer may choose from, each with what it adds or saves, and the total with it. */
export function OptionsPart({ terms, totals, say }: OptionsProps) {
  const [name, setName] = useState("");
  const [what, setWhat] = useState("");
  const [price, setPrice] = useState("");
  const isPrice = /^-?\d{1,6}([.,]\d{1,2})?$/.test(price.trim());
  const isNew = name.trim() !== "" && terms.options.every((each) => each.name !== name.trim());
  return (
    <fieldset className="pt-3">
      <legend className="font-semibold">To choose from</legend>
      {terms.options.map((each) => (
        <p key={each.name} className="flex items-center gap-2 border-b border-base-300 py-1" data-option={each.name}>
          <span className="grow">
            {each.name}
            <span className="quiet block text-sm">
              {each.what} {each.price} net
            </span>
          </span>
          <b className="tabular-nums">{totals.find((one) => one.name === each.name)?.total}</b>
          <button
            className="btn btn-ghost btn-sm"
            aria-label={`Take away: ${each.name}`}
            onClick={() => say(({ options }) => ({ options: options.filter((one) => one.name !== each.name) }))}
          >
            ✕
          </button>
        </p>
      ))}
      <form
        className="grid grid-cols-2 gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          const one = { name: name.trim(), what: what.trim(), price: price.trim().replace(",", ".") };
          say(({ options }) => ({ options: [...options, one] }));
          setName("");
          setWhat("");
          setPrice("");
        }}
      >
        <Line label="Option" value={name} onValue={setName} />
        <Line label="More or less, net" name="Price of the option" value={price} onValue={setPrice} />
        <Line label="What it is" name="What the option is" most={400} value={what} onValue={setWhat} />
        <button className="btn self-end" disabled={!isNew || !isPrice}>
          Add
        </button>
      </form>
    </fieldset>
  );
}
