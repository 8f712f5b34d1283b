package mellow.server.cell;

import jakarta.persistence.LockModeType;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Lock;
import org.springframework.data.jpa.repository.Query;

/** Cells by many keys at once; a key is the same place in both arrays. */
interface CellRepository extends JpaRepository<CellRow, CellKey> {

    /** Keeps the cells from changing until the transaction ends, always in one order. */
    @Query(
            value =
                    """
                    select c.* from cell c
                    join (select * from unnest(cast(:entries as bigint[]), cast(:languages as int[])) as k (e, l)) as wanted on wanted.e = c.entry_id and wanted.l = c.language_id
                    order by c.entry_id, c.language_id for update of c
                    """,
            nativeQuery = true)
    List<CellRow> hold(Long[] entries, Integer[] languages);

    @Query(
            value =
                    """
                    select o.* from offer o
                    join (select * from unnest(cast(:entries as bigint[]), cast(:languages as int[])) as k (e, l)) as wanted on wanted.e = o.entry_id and wanted.l = o.language_id
                    order by o.opened_version, o.id
                    """,
            nativeQuery = true)
    List<OfferRow> offers(Long[] entries, Integer[] languages);

    /** Also keeps the entries' sources from changing until the transaction ends. */
    @Lock(LockModeType.PESSIMISTIC_READ)
    @Query("from EntryRow where id in :entries order by id")
    List<EntryRow> holdEntries(Collection<Long> entries);

    @Lock(LockModeType.PESSIMISTIC_WRITE)
    @Query("from OfferRow where id = :offer")
    Optional<OfferRow> holdOffer(long offer);

    @Query("select tableId from EntryRow where id = :entry and removedAt is null")
    Optional<Long> tableOf(long entry);

    @Query("select distinct tableId from EntryRow where id in :entries order by tableId")
    List<Long> tablesOf(Collection<Long> entries);
}
