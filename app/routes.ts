import { index, layout, type RouteConfig, route } from "@react-router/dev/routes";

export default [
  index("routes/home.ts"),
  layout("routes/shell.tsx", [
    route("campaigns", "routes/campaigns.tsx"),
    route("audience", "routes/audience.tsx"),
    route("sources", "routes/sources.tsx"),
    route("brand", "routes/brand.tsx"),
    route("postroom", "routes/postroom.tsx", [route(":message", "routes/message.tsx")]),
  ]),
  route("postroom/list", "routes/message-list.ts"),
  route("postroom/:message/source/:file", "routes/message-source.ts"),
  route("campaigns/:campaign", "routes/campaign.tsx", [
    route("compose", "routes/compose.tsx"),
    route("preview", "routes/preview.tsx"),
    route("readers", "routes/readers.tsx"),
    route("proof", "routes/proof.tsx"),
    route("send", "routes/send.tsx"),
  ]),
  route("campaigns/:campaign/picture", "routes/campaign-picture.ts"),
  route("campaigns/:campaign/save", "routes/campaign-save.ts"),
  route("campaigns/:campaign/editions", "routes/campaign-editions.ts"),
  route("readers/search", "routes/reader-search.ts"),
  route("readers/count", "routes/reader-count.ts"),
  route("pictures", "routes/picture-upload.ts"),
  route("pictures/:picture", "routes/picture.ts"),
  route("unsubscribe/:token", "routes/unsubscribe.tsx"),
] satisfies RouteConfig;
