import type { ComponentProps, ReactNode } from "react";
import { useWidth } from "../hooks/use-width";

/** Where a value lies in pixels. */
export type Scale = (value: number) => number;

/** Values from `low` to `high` laid out between two pixels. */
export function scale(low: number, high: number, from: number, to: number): Scale {
  return (value) => from + ((value - low) / (high - low || 1)) * (to - from);
}

interface Props {
  /** What the picture says, for whoever cannot see it. */
  label: string;
  height: number;
  /** How wide it is before it has been measured. */
  first?: number;
  className?: string;
  children: (width: number) => ReactNode;
}

/** A picture as wide as there is room. Only for the eye: figures that are read stand beside it. */
export function Chart({ label, height, first = 800, className = "", children }: Props) {
  const [element, measured] = useWidth<HTMLDivElement>();
  const width = measured || first;
  return (
    <div ref={element} className={className}>
      <Picture label={label} width={width} height={height}>
        {children(width)}
      </Picture>
    </div>
  );
}

/** The same of a width that is known. */
export function Picture({
  label,
  width,
  height,
  children,
  ...rest
}: { label: string; width: number; height: number } & ComponentProps<"svg">) {
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={label}
      className="block w-full text-soft"
      {...rest}
    >
      {children}
    </svg>
  );
}

/** A line through points of pixels. */
export function Curve({
  points,
  ...rest
}: { points: readonly (readonly [number, number])[] } & Omit<
  ComponentProps<"polyline">,
  "points"
>) {
  return (
    <polyline points={pixels(points)} fill="none" stroke="var(--owed)" strokeWidth={2} {...rest} />
  );
}

export interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** Boxes of one colour, as one shape: hundreds of them cost no more than one. */
export function Boxes({ boxes, fill }: { boxes: readonly Box[]; fill: string }) {
  const d = boxes.map(({ x, y, width, height }) => {
    const wide = width.toFixed(2);
    return `M${x.toFixed(2)} ${y.toFixed(2)}h${wide}v${height.toFixed(2)}h-${wide}z`;
  });
  return <path d={d.join("")} fill={fill} />;
}

export function pixels(points: readonly (readonly [number, number])[]): string {
  return points.map(([x, y]) => `${x.toFixed(1)},${y.toFixed(1)}`).join(" ");
}

/** A level across the picture. */
export function Level({
  y,
  from,
  to,
  ...rest
}: { y: number; from: number; to: number } & ComponentProps<"line">) {
  return <line x1={from} x2={to} y1={y} y2={y} stroke="var(--rule-strong)" {...rest} />;
}

/** A point that matters. */
export function Dot({ x, y, ...rest }: { x: number; y: number } & ComponentProps<"circle">) {
  return <circle cx={x} cy={y} r={5} fill="var(--choice)" stroke="var(--owed)" {...rest} />;
}

const ANCHORS = { left: "start", middle: "middle", right: "end" } as const;

interface LabelProps extends ComponentProps<"text"> {
  x: number;
  y: number;
  at?: keyof typeof ANCHORS;
  /** It tells what the picture is about, not only its scale. */
  strong?: boolean;
}

/** Words in a picture. */
export function Label({ at = "left", strong = false, ...rest }: LabelProps) {
  return (
    <text
      fontSize={13}
      fontWeight={strong ? 600 : 400}
      fill={strong ? "var(--ink)" : "currentColor"}
      textAnchor={ANCHORS[at]}
      {...rest}
    />
  );
}

/** What a colour of the picture stands for. */
export function Key({ look, children }: { look: string; children: string }) {
  return (
    <span className="flex items-center gap-1.5">
      <span aria-hidden className={look} /> {children}
    </span>
  );
}
