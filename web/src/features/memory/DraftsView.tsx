import { Alert, Button, CircularProgress, Snackbar } from "@mui/material";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { Words } from "../../words/Words";
import { count, listed, nameOfTag, percent, t } from "../../words/words";
import { ServiceDialog } from "./ServiceDialog";

type Service = Schemas["DraftServiceReply"];

/** Services that draft texts, what they were sent, and how much of their drafts stayed. */
export function DraftsView() {
  const queries = useQueryClient();
  const [open, setOpen] = useState<Service | "new" | null>(null);
  const [said, setSaid] = useState("");
  const desk = useQuery({
    queryKey: ["drafting", "services"],
    queryFn: ({ signal }) => ask<Schemas["DraftDesk"]>("/api/drafting/services", { signal }),
    staleTime: 0,
  });
  const worth = useQuery({
    queryKey: ["drafting", "worth"],
    queryFn: ({ signal }) => ask<Schemas["Worth"][]>("/api/drafting/worth", { signal }),
    staleTime: 0,
  });
  const failure = desk.error ?? worth.error;
  if (failure) {
    return (
      <Alert
        severity="error"
        action={
          <Button onClick={() => void queries.invalidateQueries({ queryKey: ["drafting"] })}>{t("retry")}</Button>
        }
      >
        {sentenceOf(failure)}
      </Alert>
    );
  }
  if (!desk.data) return <CircularProgress size={22} aria-label={t("ledger.loading")} />;
  const { hosts, services } = desk.data;
  const remove = (service: Service) =>
    void ask(`/api/drafting/services/${service.id}`, { method: "DELETE" })
      .then(() => setSaid(t("drafts.removed", { name: service.settings.name })))
      .then(
        () => queries.invalidateQueries({ queryKey: ["drafting"] }),
        (wrong: unknown) => setSaid(sentenceOf(wrong)),
      );
  return (
    <div className="drafts">
      <div className="asks">
        {hosts.length > 0 ? (
          <>
            <Button variant="contained" size="small" onClick={() => setOpen("new")}>
              {t("drafts.add")}
            </Button>
            <span className="soft">{t("drafts.hosts", { hosts: listed(hosts) })}</span>
          </>
        ) : (
          <p className="soft">
            <Words of="drafts.noHosts" slots={{ option: <code>--drafting drafts.example</code> }} />
          </p>
        )}
      </div>
      {services.length === 0 ? (
        <p className="soft">{t("drafts.none")}</p>
      ) : (
        <div className="units" role="region" aria-label={t("drafts.services")} tabIndex={0}>
          <table>
            <thead>
              <tr>
                <th scope="col">{t("drafts.service")}</th>
                <th scope="col">{t("drafts.languages")}</th>
                <th scope="col">{t("drafts.today")}</th>
                <th scope="col">{t("drafts.month")}</th>
                <th scope="col">
                  <span className="visually-hidden">{t("fills.do")}</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {services.map((service) => (
                <tr key={service.id}>
                  <th scope="row">
                    {service.settings.name}
                    <small className="soft mono">{service.settings.address}</small>
                    {service.settings.withheld.length > 0 && (
                      <small className="soft">
                        {t("drafts.withheld", { tables: listed(service.settings.withheld) })}
                      </small>
                    )}
                  </th>
                  <td>
                    {service.settings.languages.length === 0
                      ? t("drafts.all")
                      : listed(service.settings.languages.map((tag) => nameOfTag(tag)))}
                  </td>
                  <td>{t("drafts.used", { used: service.today, of: service.settings.dayCharacters })}</td>
                  <td>{t("drafts.used", { used: service.month, of: service.settings.monthCharacters })}</td>
                  <td className="does">
                    <Button size="small" onClick={() => setOpen(service)}>
                      {t("shelves.change")}
                    </Button>
                    <Button size="small" color="error" onClick={() => remove(service)}>
                      {t("shelves.remove")}
                    </Button>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      {worth.data && worth.data.length > 0 && (
        <>
          <h2>{t("drafts.worth")}</h2>
          <div className="units" role="region" aria-label={t("drafts.worth")} tabIndex={0}>
            <table>
              <thead>
                <tr>
                  <th scope="col">{t("drafts.service")}</th>
                  <th scope="col">{t("drafts.language")}</th>
                  <th scope="col">{t("drafts.table")}</th>
                  <th scope="col">{t("drafts.made")}</th>
                  <th scope="col">{t("drafts.settled")}</th>
                  <th scope="col">{t("drafts.kept")}</th>
                  <th scope="col">{t("drafts.changed")}</th>
                </tr>
              </thead>
              <tbody>
                {worth.data.map((one) => (
                  <tr key={`${one.service} ${one.language} ${one.table}`}>
                    <td>{one.service}</td>
                    <td>{nameOfTag(one.language)}</td>
                    <td>{one.table}</td>
                    <td>{count(one.drafts)}</td>
                    <td>{count(one.settled)}</td>
                    <td>{one.settled > 0 ? percent(Math.round((100 * one.kept) / one.settled)) : ""}</td>
                    <td>{one.settled > 0 ? percent(one.changed) : ""}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </>
      )}
      {open !== null && (
        <ServiceDialog
          service={open === "new" ? null : open}
          onClose={() => setOpen(null)}
          onDone={(sentence) => {
            setOpen(null);
            setSaid(sentence);
            void queries.invalidateQueries({ queryKey: ["drafting"] });
          }}
        />
      )}
      <Snackbar open={said !== ""} autoHideDuration={6000} onClose={() => setSaid("")} message={said} />
    </div>
  );
}
