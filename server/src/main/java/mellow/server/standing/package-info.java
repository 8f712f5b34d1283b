/** Rules by which a language trusts its contributors. Depends on language, people, common. */
@NullMarked
package mellow.server.standing;

import org.jspecify.annotations.NullMarked;
