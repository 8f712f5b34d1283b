package mellow.server.table;

import java.util.List;
import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Query;

interface TableRepository extends JpaRepository<LedgerTable, Long> {

    @Query("from LedgerTable where slug = :slug and removedAt is null")
    Optional<LedgerTable> findBySlug(String slug);

    @Query("from LedgerTable where lower(name) = lower(:name) and removedAt is null")
    Optional<LedgerTable> findByName(String name);

    List<LedgerTable> findByRemovedAtNullOrderByNameAsc();

    List<LedgerTable> findByRemovedAtNotNullOrderByRemovedAtDesc();
}
