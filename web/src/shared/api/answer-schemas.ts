/** The schemas of what the server answers, fetched once: a screen that reads an answer waits for them, the board is drawn before. */
export const answerSchemas = () => import('./answer-schema-list.js');
