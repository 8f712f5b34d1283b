package mellow.server.cell;

import org.springframework.data.jpa.repository.JpaRepository;

interface OfferRepository extends JpaRepository<OfferRow, Long> {}
