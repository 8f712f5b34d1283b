/**
 * Knows the cell: its states, the events that change it, who may cause them. The one place where the rules of the record live. Must not know storage,
 * files or the screen.
 *
 * <p>Transitions, by what the cell holds in force (the tables of record.md):
 *
 * <pre>
 * event        | who                                   | nothing or pencilled       | settled
 * pencil       | contributor, program                  | text, pencilled            | refused
 * put forward  | contributor                           | offer opened               | offer opened
 *              | reviewer, where own texts may settle  | text, settled              | text, settled
 * settle       | reviewer, not the offer's author      | offer's text, settled      | offer's text, settled
 * settle by rule | the offer's author, trusted by a standing rule | offer's text, settled | only a stale text: offer's text, settled
 * amend        | reviewer, not the offer's author      | amended text, settled      | amended text, settled
 * return       | reviewer, with a reason               | offer returned             | offer returned
 * withdraw     | the offer's author                    | offer withdrawn            | offer withdrawn
 * still holds  | reviewer                              | based on the current source| based on the current source
 *              | contributor, as an offer              | offer of the same text     | offer of the same text
 * clear        | reviewer                              | nothing                    | nothing
 * put back     | contributor (pencilled), reviewer     | as that line               | as that line
 * undo         | who made the change, nothing since     | as before that change      | as before that change
 * </pre>
 *
 * <p>Two rules look at what comes out, whatever the event. A text comes into force as settled when it was not the settled text before. Then
 *
 * <ul>
 *   <li>four eyes: unless the language lets reviewers settle their own, it is refused when the actor alone stands behind it: their own offer, somebody else's
 *       amended into one's own, a line of one's own put back, a text that one wrote and settled oneself brought back by undo. A standing rule of the language
 *       is the one exception;
 *   <li>the checks: a text with blockers is refused; what put back and undo restore comes back pencilled instead, and is listed.
 * </ul>
 */
@NullMarked
@Uses({"check", "text"})
package mellow.core.cell;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
