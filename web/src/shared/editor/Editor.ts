import { later } from "../later";

/** The source editor. */
export const Editor = later(() => import("./SourceEditor"), "SourceEditor");
