/** The paths of all routes, from the route table: for what must hold for each of them. */
import routes from "./routes";

interface Entry {
  path?: string;
  file: string;
  children?: Entry[];
}

const pathsOf = (entries: readonly Entry[], above = ""): string[] =>
  entries.flatMap(({ path, children = [] }) => {
    const own = path === undefined ? above : `${above}/${path}`;
    return [own, ...pathsOf(children, own)];
  });

export const ROUTE_PATHS: readonly string[] = [...new Set(pathsOf(routes as Entry[]))].filter(
  (path) => path !== "",
);
