import { useState } from "react";
import { Link } from "react-router-dom";
import type { PriceList, QuoteTerms, QuoteView } from "../../api/client";
import { useJob } from "../../data/useJob";
import { usePrices } from "../../data/usePrices";
import { useQuote, type OfTerms, type QuoteWork } from "../../data/useQuote";
import { withOrWithout } from "../../lists";
import { ConflictNote } from "../../parts/ConflictNote";
import { Choice, Figure, Line, Words } from "../../parts/fields";
import { MakePdf } from "../../parts/MakePdf";
import { Opened } from "../../parts/Opened";
import { RefusalNote } from "../../parts/RefusalNote";
import { ComparedPart } from "./ComparedPart";
import { OffersPart, OptionsPart } from "./OffersPart";

const GATES = ["photo of the board", "gas and water pipes", "RCD", "bonding"];
const SORTS = [
  ["cable", "Cable"],
  ["box", "Boxes"],
  ["accessory", "Accessories"],
  ["device", "Devices"],
  ["fixing", "Fixings"],
] as const;
const TAX_BY = [
  ["rate", "on the sum"],
  ["line", "line by line"],
] as const;
const HALF = [
  ["up", "half up"],
  ["even", "half to even"],
] as const;
const DRUMS = [
  ["yes", "whole drums"],
  ["no", "metres used"],
] as const;

/** What a job takes by its plan, and for how much: each thing with the firm's price, labour, margin, tax. */
export function QuotePage() {
  const job = useJob();
  const quote = useQuote(job.id);
  const prices = usePrices();
  return (
    <Opened query={quote.query}>
      {(view) => (
        <Opened query={prices}>{(list) => <Quoted jobId={job.id} view={view} prices={list} work={quote} />}</Opened>
      )}
    </Opened>
  );
}

interface Props {
  jobId: string;
  view: QuoteView;
  prices: PriceList;
  work: QuoteWork;
}

function Quoted({ jobId, view, prices, work }: Props) {
  const { quote, take_off: takeOff, terms } = view;
  const say: OfTerms = (change) => void work.command((now) => [change(now.terms)]);
  const open = quote.unpriced.length + quote.open_gates.length + (quote.wants_labour_price ? 1 : 0);
  return (
    <main className="grid w-full gap-4 p-3 lg:grid-cols-[minmax(0,1fr)_22rem] md:p-4">
      <section className="min-w-0">
        <h1 className="flex flex-wrap items-center gap-3 text-xl font-bold">
          Take-off
          <Link className="link text-sm font-normal" to={`/jobs/${jobId}/routes`}>
            Routes
          </Link>
          <span className="ml-auto flex flex-wrap gap-2">
            <MakePdf href={`/api/jobs/${jobId}/papers/take-off.pdf`} words="Take-off, PDF" name="take-off" />
            <a className="btn" href={`/api/jobs/${jobId}/papers/take-off.csv`} download>
              CSV
            </a>
          </span>
        </h1>
        <ConflictNote work={work} />
        {work.refused && <RefusalNote refused={work.refused} onClose={work.dismiss} />}
        {prices.lines.length === 0 && (
          <p className="py-2 font-semibold text-warning">
            △ The firm has no prices yet:{" "}
            <Link className="link" to="/prices">
              take in its list
            </Link>
            .
          </p>
        )}
        {takeOff.missing.map((each) => (
          <p key={each} className="text-warning">
            △ {each}
          </p>
        ))}
        {SORTS.map(([sort, title]) => {
          const items = takeOff.items.filter((each) => each.sort === sort);
          if (items.length === 0) return null;
          return (
            <section key={sort} className="pt-3">
              <h2 className="font-bold">{title}</h2>
              <table className="w-full border-collapse">
                <tbody>
                  {items.map((item) => {
                    const line = quote.lines.find((each) => each.key === item.key);
                    const drums = takeOff.cuts.find((each) => each.key === item.key)?.drums;
                    return (
                      <tr key={item.key} className="border-b border-base-300 align-top" data-item={item.key}>
                        <td className="p-1">
                          {item.what}
                          {drums && (
                            <span className="quiet block text-sm">
                              {drums.drums.map((drum) => `${String(drum.size_mm / 1000)} m`).join(" + ")} off drums,{" "}
                              {(
                                drums.drums.reduce((all, each) => all + each.size_mm - sumOf(each.cuts_mm), 0) / 1000
                              ).toFixed(1)}{" "}
                              m left{drums.is_proved ? "" : "; not proved"}
                            </span>
                          )}
                        </td>
                        <td className="p-1 text-right text-lg font-bold whitespace-nowrap tabular-nums">
                          {item.unit === "m" ? `${(item.count / 1000).toFixed(1)} m` : item.count}
                        </td>
                        <td className="p-1">
                          <select
                            className={`select w-full min-w-32 ${line ? "" : "border-warning"}`}
                            aria-label={`Price of ${item.what}`}
                            name={`price ${item.key}`}
                            value={terms.codes[item.key] ?? ""}
                            onChange={({ target: { value } }) =>
                              say(({ codes }) => ({ codes: withCode(codes, item.key, value) }))
                            }
                          >
                            <option value="">which price?</option>
                            {prices.lines.map((price) => (
                              <option key={price.code} value={price.code}>
                                {price.name}, {price.price} / {price.unit}
                              </option>
                            ))}
                          </select>
                        </td>
                        <td className="w-24 p-1 text-right font-semibold whitespace-nowrap tabular-nums">
                          {line ? line.net : "–"}
                        </td>
                      </tr>
                    );
                  })}
                </tbody>
              </table>
            </section>
          );
        })}
        <ComparedPart terms={terms} say={say} />
      </section>
      <aside className="min-w-0">
        <section className="border-2 border-accent bg-base-200 p-3">
          <h2 className="text-lg font-bold">{open ? "Estimate" : "Quote"}</h2>
          <p className="text-4xl font-bold tabular-nums" data-total={quote.total}>
            {quote.total}
          </p>
          <dl className="grid grid-cols-[1fr_auto] gap-x-4 pt-2 tabular-nums">
            {[
              ["Material", quote.material],
              [`Labour, ${quote.hours} h`, quote.labour],
              ["Margin", quote.margin],
              ["Variations", quote.variations],
              ["Net", quote.net],
              ["Tax", quote.tax],
            ].map(([name, amount]) => (
              <div key={name} className="contents">
                <dt>{name}</dt>
                <dd className="text-right font-semibold">{amount}</dd>
              </div>
            ))}
          </dl>
          {open > 0 && (
            <p className="pt-2 font-semibold text-warning" data-open={open}>
              △ {quote.unpriced.length > 0 && `${String(quote.unpriced.length)} without a price. `}
              {quote.wants_labour_price && "No price for an hour. "}
              {quote.open_gates.length > 0 && `To be answered: ${quote.open_gates.join(", ")}.`}
            </p>
          )}
          <p className="pt-2">
            <MakePdf
              href={`/api/jobs/${jobId}/papers/quote.pdf`}
              words={open ? "Estimate, PDF" : "Quote, PDF"}
              name="quote"
            />
          </p>
        </section>
        <div className="grid grid-cols-2 gap-2 pt-3">
          <Choice
            name="Price of an hour"
            caption="An hour costs"
            className="w-full"
            blank="which price?"
            value={terms.labour_code}
            options={prices.lines.map((each) => [each.code, `${each.name}, ${each.price}`] as const)}
            onCommit={(labour_code) => say(() => ({ labour_code }))}
          />
          <Choice
            name="Cable is paid by"
            caption="Cable is paid by"
            value={terms.whole_drums ? "yes" : "no"}
            options={DRUMS}
            onCommit={(said) => say(() => ({ whole_drums: said === "yes" }))}
          />
          <Figure
            name="Margin"
            caption="Margin"
            unit="%"
            required
            value={Number(terms.margin_percent)}
            onCommit={(percent) => say(() => ({ margin_percent: String(percent ?? 0) }))}
          />
          <Figure
            name="Tax"
            caption="Tax"
            unit="%"
            required
            value={Number(terms.tax_percent)}
            onCommit={(percent) => say(() => ({ tax_percent: String(percent ?? 0) }))}
          />
          <Choice
            name="Tax is reckoned"
            caption="Tax is reckoned"
            value={terms.tax_by}
            options={TAX_BY}
            onCommit={(tax_by) => say(() => ({ tax_by }))}
          />
          <Choice
            name="Halves go"
            caption="Halves go"
            value={terms.half}
            options={HALF}
            onCommit={(half) => say(() => ({ half }))}
          />
          <Figure
            name="It stands for"
            caption="It stands for"
            unit="days"
            required
            value={terms.valid_days}
            onCommit={(days) => days !== null && say(() => ({ valid_days: days }))}
          />
        </div>
        <fieldset className="pt-3">
          <legend className="font-semibold">Answered, by photo or word</legend>
          {GATES.map((gate) => (
            <label key={gate} className="flex min-h-9 items-center gap-2">
              <input
                type="checkbox"
                className="checkbox"
                name={gate}
                checked={terms.answered.includes(gate)}
                onChange={({ target: { checked } }) =>
                  say(({ answered }) => ({ answered: withOrWithout(answered, gate, checked) }))
                }
              />
              {gate}
            </label>
          ))}
        </fieldset>
        <fieldset className="pt-3">
          <legend className="font-semibold">Not in it</legend>
          {terms.excluded.map((each) => (
            <p key={each} className="flex items-center gap-2">
              <span className="grow">{each}</span>
              <button
                className="btn btn-ghost btn-sm"
                aria-label={`Take away: ${each}`}
                onClick={() => say(({ excluded }) => ({ excluded: withOrWithout(excluded, each, false) }))}
              >
                ✕
              </button>
            </p>
          ))}
          <Words
            name="One more that is not in it"
            value=""
            onCommit={(said) => said && say(({ excluded }) => ({ excluded: [...excluded, said] }))}
          />
        </fieldset>
        <OptionsPart terms={terms} totals={quote.options} say={say} />
        <OffersPart jobId={jobId} isWhole={open === 0} />
        <Variations terms={terms} say={say} />
      </aside>
    </main>
  );
}

/** What was agreed on site after the quote: with whom, and when. */
function Variations({ terms, say }: { terms: QuoteTerms; say: OfTerms }) {
  const [what, setWhat] = useState("");
  const [price, setPrice] = useState("");
  const [by, setBy] = useState("");
  const isPrice = /^-?\d{1,6}([.,]\d{1,2})?$/.test(price.trim());
  return (
    <fieldset className="pt-3">
      <legend className="font-semibold">Variations agreed on site</legend>
      {terms.variations.map((each, at) => (
        <p key={at} className="flex gap-2 border-b border-base-300 py-1">
          <span className="grow">
            {each.what}
            <span className="quiet block text-sm">
              {each.agreed_by}, {each.on}
            </span>
          </span>
          <b className="tabular-nums">{each.price}</b>
        </p>
      ))}
      <form
        className="grid grid-cols-2 gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          const on = new Date().toISOString().slice(0, 10);
          const one = { what: what.trim(), price: price.trim().replace(",", "."), agreed_by: by.trim(), on };
          say(({ variations }) => ({ variations: [...variations, one] }));
          setWhat("");
          setPrice("");
        }}
      >
        <Line label="What" name="Variation" value={what} onValue={setWhat} />
        <Line label="Net" name="Price of the variation" value={price} onValue={setPrice} />
        <Line label="Agreed with" value={by} onValue={setBy} />
        <button className="btn self-end" disabled={!what.trim() || !isPrice || !by.trim()}>
          Agreed
        </button>
      </form>
    </fieldset>
  );
}

function withCode(codes: QuoteTerms["codes"], key: string, code: string): QuoteTerms["codes"] {
  const rest = Object.fromEntries(Object.entries(codes).filter(([each]) => each !== key));
  return code ? { ...rest, [key]: code } : rest;
}

function sumOf(figures: readonly number[]): number {
  return figures.reduce((all, each) => all + each, 0);
}
