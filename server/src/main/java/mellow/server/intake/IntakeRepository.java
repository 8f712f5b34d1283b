package mellow.server.intake;

import java.util.List;
import org.springframework.data.domain.Limit;
import org.springframework.data.jpa.repository.JpaRepository;

interface IntakeRepository extends JpaRepository<Intake, Long> {

    List<Intake> findByPersonIdAndIdLessThanOrderByIdDesc(long person, long before, Limit limit);

    int countByPersonIdAndStatus(long person, String status);

    List<Intake> findByIdLessThanOrderByIdDesc(long before, Limit limit);
}
