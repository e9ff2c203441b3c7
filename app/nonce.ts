import { createContext } from "react";

/** By which a page's own inline scripts are told from any other; empty in the browser, which does not give it away. */
export const NonceContext = createContext("");
