import { campaigns } from "~/server/campaigns/campaigns";
import type { Route } from "./+types/home";
export async function loader({ context }: Route.LoaderArgs) {
  return { campaigns: await campaigns(context.septima) };
}
export default function Home({ loaderData }: Route.ComponentProps) {
  return <pre>{JSON.stringify(loaderData, null, 1)}</pre>;
}
