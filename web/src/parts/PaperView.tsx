import type { Paper, PaperBlock, PaperTable } from "../api/client";

/** A document as it is on paper: the same sections, tables and statements, whatever kind it is. */
export function PaperView({ paper }: { paper: Paper }) {
  return (
    <div data-paper={paper.kind}>
      {paper.sections.map((section, index) => (
        <section key={index} className="pb-3">
          {section.title && <h2 className="pb-1 text-xl font-bold">{section.title}</h2>}
          {section.blocks.map((block, at) => (
            <Block key={at} block={block} />
          ))}
        </section>
      ))}
      <p className="quiet pt-1 text-sm">{[...paper.statements, paper.advice].join(" ")}</p>
    </div>
  );
}

function Block({ block }: { block: PaperBlock }) {
  if (block.block === "facts")
    return (
      <dl className="mb-4 flex flex-wrap gap-x-8 gap-y-2 border-y border-base-content/60 py-2">
        {block.facts.map((fact) => (
          <div key={fact.name}>
            <dt className="quiet text-sm">{fact.name}</dt>
            <dd className="text-xl font-bold">{fact.value}</dd>
          </div>
        ))}
      </dl>
    );
  if (block.block === "table") return <Table table={block} />;
  if (block.block === "words")
    return (
      <div className={block.kind === "strong" ? "font-semibold" : ""}>
        {block.lines.map((line) => (
          <p key={line}>{line}</p>
        ))}
      </div>
    );
  if (block.block === "photos")
    return (
      <div className="flex flex-wrap gap-4 py-2">
        {block.photos.map((photo) => (
          <figure key={photo.id} className="w-72">
            <a href={`/api/attachments/${photo.id}`} target="_blank" rel="noreferrer">
              <img
                className="max-h-72 border border-base-300"
                src={`/api/attachments/${photo.id}`}
                alt={photo.caption}
              />
            </a>
            <figcaption className="text-sm">
              <b>{photo.caption}</b> <span className="quiet">{photo.taken}</span>
            </figcaption>
          </figure>
        ))}
      </div>
    );
  // Labels, notices, workings and terminals have pages of their own.
  return null;
}

/** Columns under their groups. */
function groupsOf(columns: PaperTable["columns"]): { name: string; span: number }[] {
  const groups: { name: string; span: number }[] = [];
  for (const column of columns) {
    const last = groups.at(-1);
    if (last?.name === column.group) last.span += 1;
    else groups.push({ name: column.group, span: 1 });
  }
  return groups;
}

function Table({ table }: { table: PaperTable }) {
  const columns = table.columns.filter((each) => each.only === "");
  const groups = groupsOf(columns);
  const side = { left: "text-left", right: "text-right", centre: "text-center" };
  const line = table.dense ? "border border-base-300" : "border-b border-base-300";
  return (
    <div className="overflow-x-auto">
      <table className="w-full border-collapse text-sm">
        <thead>
          {groups.some((each) => each.name !== "") && (
            <tr>
              {groups.map((group) => (
                <th key={group.name} colSpan={group.span} className={`bg-base-200 px-1 py-1 ${line}`}>
                  {group.name}
                </th>
              ))}
            </tr>
          )}
          <tr>
            {columns.map((column) => (
              <th
                key={column.key}
                className={`px-1 py-1 align-bottom text-xs font-semibold ${line} ${side[column.align]}`}
              >
                {column.heading}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {table.rows.map((row, index) => (
            <tr key={index} className={`hover:bg-base-200 ${row.struck ? "line-through opacity-70" : ""}`}>
              {columns.map((column) => (
                <td
                  key={column.key}
                  className={`px-1 py-1.5 ${line} ${side[column.align]} ${column.strong ? "min-w-20 font-semibold" : ""} ${row.bad.includes(column.key) ? "font-bold text-error" : ""}`}
                >
                  {row.cells[column.key]}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
