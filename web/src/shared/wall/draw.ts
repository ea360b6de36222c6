import type { State } from "../states";

/** Colours read from the tokens, so that light and dark follow the style sheet. */
export interface Paint {
  clay: string;
  sea: string;
  ochre: string;
  ochreWash: string;
  ochreInk: string;
  crimson: string;
  paper: string;
  ink: string;
  joint: string;
  mortar: string;
  mortarInk: string;
  onClay: string;
  onSea: string;
  font: string;
}

export function readPaint(): Paint {
  const css = getComputedStyle(document.documentElement);
  const v = (name: string) => css.getPropertyValue(`--${name}`).trim();
  return {
    clay: v("clay"),
    sea: v("sea"),
    ochre: v("ochre"),
    ochreWash: v("ochre-wash"),
    ochreInk: v("ochre-ink"),
    crimson: v("crimson"),
    paper: v("paper"),
    ink: v("ink"),
    joint: v("joint"),
    mortar: v("mortar"),
    mortarInk: v("mortar-ink"),
    onClay: v("on-clay"),
    onSea: v("on-sea"),
    font: v("body"),
  };
}

/** Draws one brick: its colour and its shape both say the state. */
export function drawBrick(
  c: CanvasRenderingContext2D,
  p: Paint,
  state: State,
  x: number,
  y: number,
  w: number,
  h: number,
  dim: boolean,
) {
  c.globalAlpha = dim ? 0.25 : 1;
  const frame = (color: string, dash: number[]) => {
    c.setLineDash(dash);
    c.strokeStyle = color;
    c.lineWidth = h > 12 ? 1.5 : 1;
    c.strokeRect(x + 0.75, y + 0.75, w - 1.5, h - 1.5);
    c.setLineDash([]);
  };
  switch (state) {
    case "change":
      c.fillStyle = p.clay;
      c.fillRect(x, y, w, h);
      break;
    case "break":
      c.fillStyle = p.crimson;
      c.fillRect(x, y, w, h);
      c.strokeStyle = p.paper;
      c.lineWidth = h > 12 ? 2 : 1;
      c.beginPath();
      c.moveTo(x + w * 0.72, y);
      c.lineTo(x + w * 0.66, y + h * 0.4);
      c.lineTo(x + w * 0.76, y + h * 0.6);
      c.lineTo(x + w * 0.7, y + h);
      c.stroke();
      break;
    case "linked":
    case "same":
      c.fillStyle = p.sea;
      c.fillRect(x, y, w, h);
      break;
    case "own": {
      const n = Math.min(h * 0.4, w * 0.4);
      c.fillStyle = p.ochre;
      c.beginPath();
      c.moveTo(x, y);
      c.lineTo(x + w - n, y);
      c.lineTo(x + w, y + n);
      c.lineTo(x + w, y + h);
      c.lineTo(x, y + h);
      c.fill();
      break;
    }
    case "held":
      c.fillStyle = p.ochreWash;
      c.fillRect(x, y, w, h);
      c.save();
      c.beginPath();
      c.rect(x, y, w, h);
      c.clip();
      c.strokeStyle = p.ochre;
      c.lineWidth = 0.8;
      c.beginPath();
      for (let i = x - h; i < x + w; i += 6) {
        c.moveTo(i, y + h);
        c.lineTo(i + h, y);
      }
      c.globalAlpha *= 0.45;
      c.stroke();
      c.restore();
      frame(p.ochre, []);
      break;
    case "copy":
      c.fillStyle = p.paper;
      c.fillRect(x, y, w, h);
      frame(p.ink, h > 12 ? [4, 2.5] : [2, 1.5]);
      break;
    case "hidden":
      c.fillStyle = p.paper;
      c.fillRect(x, y, w, h);
      frame(p.mortarInk, [1.5, 2.5]);
      break;
    case "none":
      c.fillStyle = p.joint;
      c.fillRect(x, y, w, h);
  }
  c.globalAlpha = 1;
}

/** The colour of a state where a brick is too narrow for its shape. */
export function solid(p: Paint, state: State): string {
  switch (state) {
    case "change":
      return p.clay;
    case "break":
      return p.crimson;
    case "linked":
    case "same":
      return p.sea;
    case "own":
    case "held":
      return p.ochre;
    case "copy":
      return p.ink;
    case "hidden":
      return p.mortarInk;
    case "none":
      return p.joint;
  }
}

/** The colour of writing on a brick. */
export function inkOn(p: Paint, state: State): string {
  switch (state) {
    case "change":
      return p.onClay;
    case "break":
      return p.paper;
    case "linked":
    case "same":
      return p.onSea;
    case "own":
      return "#24201b";
    case "held":
      return p.ochreInk;
    case "none":
    case "hidden":
      return p.mortarInk;
    default:
      return p.ink;
  }
}
