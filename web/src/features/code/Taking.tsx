import { MenuItem, TextField } from "@mui/material";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { t } from "../../words/words";

/** Where entries that are made go. */
export interface Where {
  table: string;
  section: string;
}

/** The table and the section that new entries go to; the product's first table to begin with. */
export function useWhere(product: Schemas["ProductReply"]): [Where, (where: Where) => void] {
  return useState<Where>({ table: product.tables[0]?.slug ?? "", section: "" });
}

/** Asks for them. */
export function WhereFields({
  product,
  where,
  onWhere,
}: {
  product: Schemas["ProductReply"];
  where: Where;
  onWhere: (where: Where) => void;
}) {
  return (
    <>
      <TextField
        select
        size="small"
        label={t("code.into")}
        value={where.table}
        onChange={(event) => onWhere({ ...where, table: event.target.value })}
      >
        {product.tables.map((one) => (
          <MenuItem key={one.slug} value={one.slug}>
            {one.name}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        size="small"
        label={t("code.section")}
        value={where.section}
        onChange={(event) => onWhere({ ...where, section: event.target.value })}
      />
    </>
  );
}
