import type { Schemas } from "../../../api/client";

export type Piece = Schemas["FigurePieceOut"];
type Point = Schemas["Point"];

const radians = (degrees: number) => (degrees * Math.PI) / 180;
const ahead = (heading: number): Point => ({ x: Math.sin(radians(heading)), y: Math.cos(radians(heading)) });
const along = (from: Point, way: Point, by: number): Point => ({
  x: from.x + way.x * by,
  y: from.y + way.y * by,
});
const sign = (hand: Schemas["Hand"] | null | undefined) => (hand === "left" ? -1 : 1);

/** Where the horse is a share of the way along a piece, and how it heads. */
export function at(piece: Piece, share: number): { at: Point; heading: number } {
  const { radius, degrees, hand, heading, length } = piece;
  if (radius != null && degrees != null) {
    const way = sign(hand);
    const centre = along(piece.at, ahead(heading + 90 * way), radius);
    const now = heading + way * degrees * share;
    return { at: along(centre, ahead(now - 90 * way), radius), heading: now };
  }
  const way =
    piece.gait === "back"
      ? ahead(heading + 180)
      : piece.gait === "side"
        ? ahead(heading + 90 * sign(hand))
        : ahead(heading);
  return { at: along(piece.at, way, length * share), heading };
}

/** A piece as points, close enough together to be drawn. */
export function points(piece: Piece): Point[] {
  const steps = piece.degrees != null ? Math.max(2, Math.ceil(piece.degrees / 6)) : 1;
  return Array.from({ length: steps + 1 }, (_, n) => at(piece, n / steps).at);
}

/** Which piece is ridden so many seconds from the start, and where on it. */
export function whereAt(path: Piece[], seconds: number): { piece: Piece; at: Point; heading: number } | null {
  let left = seconds;
  for (const piece of path) {
    if (left <= piece.seconds) return { piece, ...at(piece, piece.seconds > 0 ? left / piece.seconds : 0) };
    left -= piece.seconds;
  }
  return null;
}
