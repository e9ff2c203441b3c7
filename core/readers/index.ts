/**
 * What readers come to by the links in their letters: pages in their language and the brand's look, as HTML with no script in it.
 * `tongueOf` chooses the language, `preferencesPage`, `answerPage`, `surveyPage`, `joinPage`, `joinAskedPage`, `confirmPage` and `messagePage` make the pages.
 */
export { messagePage, type PageContext } from "./page";
export {
  type Answering,
  type Asking,
  answerPage,
  confirmPage,
  type Invitation,
  joinAskedPage,
  joinPage,
  type Preferences,
  preferencesPage,
  surveyPage,
  type Topic,
} from "./pages";
export { languagesAsked, put, type Said, type Tongue, tongueOf, WORDS } from "./words";
