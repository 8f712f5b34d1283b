/** A stand-in for a drafting service, to try drafts without any network: it knows some words of the demo's languages and fails on request. */
@NullMarked
@Uses({})
package mellow.server.drafter;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
