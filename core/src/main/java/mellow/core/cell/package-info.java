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
 * amend        | reviewer                              | amended text, settled      | amended text, settled
 * return       | reviewer, with a reason               | offer returned             | offer returned
 * withdraw     | the offer's author                    | offer withdrawn            | offer withdrawn
 * still holds  | reviewer                              | based on the current source| based on the current source
 *              | contributor, as an offer              | offer of the same text     | offer of the same text
 * clear        | reviewer                              | nothing                    | nothing
 * put back     | contributor (pencilled), reviewer     | as that line               | as that line
 * undo         | who made the change, nothing since     | as before that change      | as before that change
 * </pre>
 */
@NullMarked
package mellow.core.cell;

import org.jspecify.annotations.NullMarked;
