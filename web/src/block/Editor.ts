import { later } from "../shared/later";

/** The source editor. */
export const Editor = later(() => import("./SourceEditor"), "SourceEditor");
