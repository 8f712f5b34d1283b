package mellow.server.table;

import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;

interface TableRepository extends JpaRepository<LedgerTable, Long> {

    Optional<LedgerTable> findBySlug(String slug);
}
