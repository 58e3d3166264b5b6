import type { Picture } from "../api/client";

const TONES = {
  plain: "text-base-content",
  quiet: "text-base-content/60",
  bad: "text-error",
  copper: "text-accent",
  paper: "text-base-content",
} as const;

interface Props {
  picture: Picture;
  /** What may be tapped, where something in it stands for a choice. */
  onChoice?: ((choice: string) => void) | undefined;
}

/** A drawing of an exercise; what it shows is told in words too. */
export function PictureView({ picture, onChoice }: Props) {
  return (
    <figure>
      <svg
        viewBox={`0 0 ${String(picture.width)} ${String(picture.height)}`}
        className="mx-auto max-h-80 w-full"
        style={{ maxWidth: picture.width * 1.5 }}
        role="img"
        aria-label={picture.told || "Drawing"}
      >
        {picture.shapes.map((shape, at) => {
          const tone = TONES[shape.tone];
          if (shape.sort === "words") {
            return (
              <text
                key={at}
                x={shape.x}
                y={shape.y}
                className={`pointer-events-none ${tone}`}
                fill="currentColor"
                fontSize="13"
                fontWeight="600"
                textAnchor="middle"
                dominantBaseline="middle"
              >
                {shape.words}
              </text>
            );
          }
          const stroke = {
            stroke: "currentColor",
            strokeWidth: shape.tone === "copper" ? 4 : 2,
            strokeDasharray: shape.dashed ? "6 5" : undefined,
            className: tone,
          };
          if (shape.sort === "line") {
            return <line key={at} x1={shape.x} y1={shape.y} x2={shape.x2} y2={shape.y2} {...stroke} />;
          }
          const paper = { fill: "var(--color-base-100)" };
          if (shape.sort === "box") {
            return (
              <rect
                key={at}
                x={Math.min(shape.x, shape.x2)}
                y={Math.min(shape.y, shape.y2)}
                width={Math.abs(shape.x2 - shape.x)}
                height={Math.abs(shape.y2 - shape.y)}
                {...paper}
                {...stroke}
              />
            );
          }
          const tap = shape.choice && onChoice ? { onClick: () => onChoice(shape.choice), cursor: "pointer" } : {};
          return <circle key={at} cx={shape.x} cy={shape.y} r={shape.r} {...paper} {...stroke} {...tap} />;
        })}
      </svg>
      {picture.told && <figcaption className="quiet text-center text-sm">{picture.told}</figcaption>}
    </figure>
  );
}
