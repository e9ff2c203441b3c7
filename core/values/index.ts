/** Values as JSON has them: whether two say the same, what is made of one once, and the way back through its changes. */
export { hashOf, mixed } from "./hash";
export { type Done, joinSwaps, Past, type Swap } from "./past";
export { remembered } from "./remembered";
export { canonical, same, sharing, textOf } from "./same";
export { Temporal } from "./temporal";
