import { Button } from "@mui/material";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { ask, type Schemas } from "../../api/client";
import { t } from "../../words/words";
import { useTables } from "../../scope/useTables";
import { ProductDialog } from "../settings";

/** Offers to make the product that a table is for, as long as no product uses it. */
export function MakeProduct({ table }: { table: string }) {
  const [open, setOpen] = useState(false);
  const navigate = useNavigate();
  const queries = useQueryClient();
  const tables = useTables();
  const products = useQuery({
    queryKey: ["products"],
    queryFn: ({ signal }) => ask<Schemas["ProductReply"][]>("/api/products", { signal }),
  });
  const one = tables.data?.find((known) => known.slug === table);
  const used = products.data?.some((product) => product.tables.some((known) => known.slug === table));
  if (!one || used !== false) return null;
  return (
    <>
      <Button variant="outlined" onClick={() => setOpen(true)}>
        {t("intake.makeProduct")}
      </Button>
      {open && (
        <ProductDialog
          product={null}
          of={one}
          tables={tables.data ?? []}
          onDone={() => {
            void queries.invalidateQueries({ queryKey: ["products"] });
            void navigate("/products");
          }}
          onClose={() => setOpen(false)}
        />
      )}
    </>
  );
}
