package mellow.server.cell;

import jakarta.persistence.LockModeType;
import java.util.List;
import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Lock;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;

interface CellRepository extends JpaRepository<CellRow, CellKey> {

    @Lock(LockModeType.PESSIMISTIC_WRITE)
    @Query("from CellRow where entryId = :entry and languageId = :language")
    Optional<CellRow> hold(long entry, short language);

    /** Also keeps the entry's source from changing until the transaction ends. */
    @Lock(LockModeType.PESSIMISTIC_READ)
    @Query("from EntryRow where id = :entry")
    Optional<EntryRow> holdEntry(long entry);

    @Query("from OfferRow where entryId = :entry and languageId = :language order by openedAt, id")
    List<OfferRow> offers(long entry, short language);

    @Query("select tableId from EntryRow where id = :entry and removedAt is null")
    Optional<Long> tableOf(long entry);

    /** Makes the row of an untouched cell; false when someone else just did. */
    default boolean claim(long entry, short language, long person) {
        return insertUntouched(entry, language, person) == 1;
    }

    @Modifying
    @Query(
            value =
                    """
                    insert into cell (entry_id, language_id, standing, state, based_on, text_at, version, origin, author_id, changed_at)
                    values (:entry, :language, 0, 5, 0, 0, 0, '', :person, now()) on conflict do nothing
                    """,
            nativeQuery = true)
    int insertUntouched(long entry, short language, long person);

    @Query(value = "select nextval('offer_seq')", nativeQuery = true)
    long nextOffer();
}
