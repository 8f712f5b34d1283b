package mellow.server.people;

import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Query;

interface PersonRepository extends JpaRepository<Person, Long> {

    @Query("from Person where signIn = :signIn")
    Optional<Person> findBySignIn(String signIn);
}
