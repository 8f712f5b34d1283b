package mellow.server.entry;

import jakarta.persistence.LockModeType;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.springframework.data.domain.Limit;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Lock;
import org.springframework.data.jpa.repository.Query;

interface EntryRepository extends JpaRepository<Entry, Long> {

    @Lock(LockModeType.PESSIMISTIC_WRITE)
    @Query("from Entry where id in :ids order by id")
    List<Entry> hold(Collection<Long> ids);

    @Query("select max(position) from Entry where tableId = :table and removedAt is null")
    Optional<Double> lastPosition(long table);

    @Query("select min(position) from Entry where tableId = :table and removedAt is null and position > :after")
    Optional<Double> nextPosition(long table, double after);

    List<Entry> findByTableIdAndRemovedAtNotNullOrderByRemovedAtDesc(long tableId, Limit limit);
}
