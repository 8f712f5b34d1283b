import { Button } from "@mui/material";
import { Logo } from "../../parts/Logo";
import { t } from "../../words/words";
import type { Person } from "../../session/useSession";
import "../../parts/door.css";

/** The page of somebody who may do nothing yet: who they are, and whom to ask. */
export function NoRights({ me, onLook, onSignOut }: { me: Person; onLook: () => void; onSignOut: () => void }) {
  return (
    <main className="door">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          onLook();
        }}
      >
        <h1>
          <Logo /> {t("product")}
        </h1>
        <p>{t("noRights.who", { name: me.name })}</p>
        <p>{t("noRights.words")}</p>
        <Button type="submit" variant="contained">
          {t("noRights.look")}
        </Button>
        <Button onClick={onSignOut}>{t("person.signOut")}</Button>
      </form>
    </main>
  );
}
