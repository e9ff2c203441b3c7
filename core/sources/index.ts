/**
 * Live content: what a source delivers, read into one shape and chosen from.
 *
 * `parseFeed` reads RSS, Atom and JSON Feed into `Article`s, `chooseArticles` picks what a block shows and
 * `LiveContent` is what `bind` hands to a program.
 */
export { type Article, ArticleSchema, chooseArticles, type LiveContent } from "./article";
export { type CodeList, readCodes } from "./codes";
export { FeedError, parseFeed } from "./feed";
export { htmlToPlain } from "./plain";
